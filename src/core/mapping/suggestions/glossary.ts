/**
 * What practitioners call things, in ten languages (English, German, French, Spanish, Italian, Dutch, Portuguese, Polish, Swedish,
 * Japanese) and in the short forms of column names: one row a meaning, its words parted by commas. A word of several rows has
 * several meanings, and what stands beside it tells which (meanings.ts). Common practice of the trade, with no published source.
 */
const WORDS = {
  email:
    'email, e mail, mail, em, email address, mail address, emailadresse, e mailadresse, mailadresse, courriel, mél, adresse électronique, correo, correo electrónico, email addr, posta elettronica, posta, emailadres, mailadres, correio, correio eletrónico, correio eletrônico, endereço eletrônico, endereço eletrónico, poczta, poczta elektroniczna, poczty elektronicznej, epost, e post, epostadress, mejl, mejladress, mailadress, メール, メールアドレス, eメール, 電子メール, eメールアドレス',
  'first name':
    'first name, given name, forename, first, given, fn, fname, name, first names, call you, vorname, rufname, vn, vname, prénom, nombre, nombre de pila, nome, nome próprio, primeiro nome, voornaam, imię, imiona, förnamn, tilltalsnamn, 名, 名前',
  'last name':
    'last name, surname, family name, last, family, ln, lname, name, nachname, familienname, nn, nname, zuname, nom, nom de famille, apellido, apellidos, cognome, achternaam, familienaam, naam, sobrenome, apelido, nazwisko, efternamn, 姓, 苗字, 名字',
  'full name':
    'name, full name, fullname, called, nm, your name, complete name, first and last name, contact name, vor und nachname, vorname nachname, vor und zuname, vollständiger name, ansprechpartner, nom, nom complet, nom et prénom, prénom et nom, nombre, nombre completo, nombre y apellidos, nome, nome completo, nome e cognome, nome e sobrenome, naam, volledige naam, voor en achternaam, contactpersoon, imię i nazwisko, namn, fullständigt namn, för och efternamn, kontaktperson, contact person, persona de contacto, personne à contacter, persona di contatto, pessoa de contato, osoba kontaktowa, 氏名, 名前, お名前, 担当者名, 担当者, call you',
  salutation:
    'salutation, title, form of address, mr ms, anrede, civilité, titre, tratamiento, titolo, aanhef, titel, tratamento, tytuł, zwrot grzecznościowy, tilltal, 敬称',
  company:
    'company, company name, organisation, organization, organisation name, organization name, business, business name, employer, account, account name, firm, firma, firmenname, unternehmen, unternehmensname, betrieb, société, entreprise, raison sociale, nom de société, empresa, nombre de la empresa, compañía, razón social, azienda, ditta, nome azienda, ragione sociale, società, bedrijf, bedrijfsnaam, organisatie, nome da empresa, organização, nazwa firmy, organizacja, företag, företagsnamn, bolag, 会社, 会社名, 企業名, 法人名, 団体名, 組織名',
  'job title':
    'job title, job, position, role, function, occupation, profession, title, beruf, funktion, stelle, berufsbezeichnung, fonction, poste, métier, cargo, puesto, profesión, ruolo, mansione, professione, posizione, functie, beroep, functietitel, função, profissão, stanowisko, zawód, befattning, yrke, 役職, 職種, 肩書き, 職業',
  department:
    'department, division, dept, abteilung, service, département, departamento, área, reparto, dipartimento, afdeling, dział, avdelning, 部署, 部門',
  phone:
    'phone, phone number, telephone, telephone number, tel, tel no, telefon, telefonnummer, rufnummer, téléphone, numéro de téléphone, teléfono, telefono, numero di telefono, telefoon, telefoonnummer, telefone, telefone fixo, numer telefonu, tfn, 電話, 電話番号, tel番号',
  mobile:
    'mobile, mobile phone, mobile number, cell, cell phone, cellphone, mob, handy, handynummer, mobil, mobilnummer, mobiltelefon, mobilfunknummer, portable, téléphone portable, móvil, teléfono móvil, celular, cellulare, telefono cellulare, mobiel, mobiel nummer, mobiele telefoon, gsm, telemóvel, telefone celular, komórka, telefon komórkowy, numer komórkowy, 携帯, 携帯電話, 携帯電話番号, 携帯番号',
  fax: 'fax, fax number, faxnummer, télécopie, faks, ファックス, fax番号',
  address:
    'address, addr, postal address, mailing address, post address, anschrift, adresse, postanschrift, adresse postale, dirección, domicilio, dirección postal, indirizzo, adres, postadres, morada, endereço, adres pocztowy, adress, postadress, 住所, 所在地',
  street:
    'street, street address, street and number, street and house number, address line 1, address 1, addr1, address1, line 1, straße, strasse, straße hausnummer, straße und hausnummer, strasse und hausnummer, str, adresse, rue, voie, numéro et rue, calle, calle y número, dirección, via, via e numero civico, indirizzo, straat, straatnaam, straat en huisnummer, rua, logradouro, morada, ulica, gata, gatuadress, 番地, 町名番地, 丁目番地',
  'house number':
    'house number, house no, hausnummer, hausnr, numéro de rue, número de casa, numero civico, civico, huisnummer, huisnr, número da porta, numer domu, husnummer',
  'address line 2':
    'address line 2, address 2, address2, line 2, apartment, apt, suite, adresszusatz, adresse zusatz, complément, complément d adresse, complemento, complemento de dirección, piso, interno, toevoeging, numer mieszkania, lägenhetsnummer, c o, 建物名, マンション名, 部屋番号',
  postcode:
    'postcode, post code, postal code, zip, zip code, zipcode, plz, postleitzahl, code postal, cp, código postal, cap, codice postale, cep, kod, kod pocztowy, postnummer, postnr, 郵便番号',
  city: 'city, town, place, locality, ort, stadt, wohnort, ville, commune, localité, ciudad, localidad, población, municipio, città, comune, località, plaats, woonplaats, stad, cidade, localidade, miasto, miejscowość, postort, 市区町村, 市町村, 都市, 市',
  region:
    'region, state, province, county, prefecture, state province, bundesland, land, kanton, région, département, provincia, estado, comunidad autónoma, regione, provincie, regio, distrito, região, província, województwo, län, landskap, 都道府県, 県, 地域',
  country:
    'country, country code, nation, land, staat, pays, país, paese, nazione, stato, kraj, państwo, 国, 国名, 国籍',
  language:
    'language, preferred language, lang, locale, sprache, langue, idioma, lengua, lingua, taal, voorkeurstaal, língua, język, språk, 言語, 使用言語',
  birthday:
    'birthday, birth date, birthdate, date of birth, dob, bd, born, born on, geburtstag, geburtsdatum, geb, date de naissance, naissance, né le, anniversaire, fecha de nacimiento, nacimiento, fecha nac, cumpleaños, data di nascita, nascita, compleanno, geboortedatum, geboren, verjaardag, data de nascimento, nascimento, aniversário, data urodzenia, urodziny, födelsedatum, födelsedag, 生年月日, 誕生日',
  age: 'age, years old, alter, âge, edad, età, leeftijd, idade, wiek, ålder, 年齢',
  gender: 'gender, sex, geschlecht, sexe, genre, género, sexo, genere, sesso, geslacht, gênero, płeć, kön, 性別',
  website:
    'website, web site, web, site, homepage, home page, url, webseite, internetseite, site web, site internet, sitio web, página web, sito, sito web, website adres, strona, strona internetowa, strona www, webbplats, hemsida, ウェブサイト, ホームページ, サイト',
  message:
    'message, comment, comments, enquiry, inquiry, question, description, details, remarks, remark, notes, note, text, your message, nachricht, mitteilung, kommentar, anmerkung, anmerkungen, bemerkung, bemerkungen, anliegen, notiz, commentaire, commentaires, remarque, remarques, mensaje, comentario, comentarios, consulta, observaciones, notas, messaggio, commento, commenti, richiesta, annotazioni, bericht, opmerking, opmerkingen, toelichting, vraag, mensagem, comentário, comentários, observação, observações, wiadomość, treść wiadomości, uwagi, komentarz, notatka, meddelande, kommentarer, anteckning, fråga, お問い合わせ内容, 問い合わせ内容, メッセージ, 本文, 備考, コメント, ご質問, 内容',
  subject:
    'subject, topic, regarding, subject line, betreff, thema, objet, sujet, asunto, tema, oggetto, argomento, onderwerp, assunto, temat, ämne, rubrik, 件名, 題名, 用件',
  interests:
    'interests, interest, interested, favourite, favorite, topics, preferences, like best, you like, interessen, interesse, themen, vorlieben, centres d intérêt, intérêts, préférences, intereses, temas, preferencias, interessi, preferenze, interesses, onderwerpen, voorkeuren, preferências, zainteresowania, tematy, intressen, 興味, 関心, ご興味',
  newsletter:
    'newsletter, news letter, mailing list, letter, updates, nl, rundbrief, infobrief, lettre, lettre d information, bulletin, infolettre, boletín, bollettino, nieuwsbrief, boletim, informativo, biuletyn, nyhetsbrev, nyhetsbrevet, メールマガジン, メルマガ, ニュースレター',
  'opt in':
    'opt in, optin, opted in, allowed, may we, write to me, contact me, keep me informed, keep me posted, consent, agree, i agree, permission, accept, accepts, subscribe, ok, einwilligung, zustimmung, schreiben sie mir, informieren sie mich, ich stimme zu, ich möchte, j accepte, je souhaite, consentement, acepto, consentimiento, quiero, accetto, consenso, desidero, toestemming, akkoord, stuur mij, aceito, autorizo, zgoda, wyrażam zgodę, chcę, samtycke, jag vill, godkänner, 同意, 希望する, 同意する',
  post: 'post, by post, mail, letter post, snail mail, postweg, par courrier, courrier, correo postal, per posta, per post, pocztą, 郵送',
  sms: 'sms, text message, text messages, textmeddelande, ショートメール',
  source:
    'source, lead source, sign up source, signup source, origin, hear about us, found us, referral source, how did you hear, quelle, herkunft, aufmerksam geworden, wie haben sie, origine, provenance, comment nous avez vous connu, comment nous avez vous connus, connu, origen, fuente, cómo nos conociste, cómo nos conoció, conociste, fonte, provenienza, come ci hai conosciuto, bron, hoe heeft u ons gevonden, herkomst, origem, como nos conheceu, źródło, skąd o nas wiesz, källa, hur hittade du oss, きっかけ, 流入元, 何で知りましたか',
  page: 'page, sign up page, signup page, landing page, landing, first page, page url, seite, einstiegsseite, zielseite, page d entrée, página, página de entrada, pagina, landingspagina, strona wejścia, sida, landningssida, ページ, ランディングページ',
  referrer: 'referrer, referer, referring page, referring site, 参照元, リファラー',
  campaign:
    'campaign, utm campaign, campaign name, kampagne, campagne, campaña, campagna, campanha, kampania, kampanj, キャンペーン',
  'campaign source': 'utm source, campaign source, traffic source',
  'campaign medium': 'utm medium, campaign medium, medium, traffic medium',
  'campaign term': 'utm term, campaign term, search term, keyword',
  'campaign content': 'utm content, campaign content',
  joined:
    'signup, sign up, signed up, signup date, sign up date, signed up on, joined, joined on, join date, member since, registered, registered on, registration date, created, created at, created on, date added, subscribed, subscribed at, eintritt, eintrittsdatum, anmeldedatum, angemeldet am, mitglied seit, registriert, date d inscription, inscrit le, inscription, fecha de alta, fecha de registro, data di iscrizione, iscritto il, inschrijfdatum, aangemeld op, data de inscrição, data de registo, data de cadastro, data zapisu, data rejestracji, registreringsdatum, registrerad, 登録日, 入会日',
  member:
    'member, membership, mitglied, mitgliedschaft, mitglieds, membre, adhérent, adhésion, miembro, socio, membro, iscritto, lid, lidmaatschap, członek, członkostwo, medlem, medlemskap, 会員',
  status:
    'status, state, stage, zustand, statut, état, estado, situación, stato, situazione, situação, stan, tillstånd, ステータス, 状態',
  customer:
    'customer, client, buyer, kunde, kunden, käufer, client, cliente, acheteur, comprador, acquirente, klant, koper, klient, kupujący, klienta, kund, köpare, お客様, 顧客',
  order:
    'order, purchase, bestellung, bestell, auftrag, commande, achat, pedido, encomenda, compra, ordine, acquisto, bestelling, aankoop, zamówienie, zakup, beställning, köp, 注文, ご注文',
  total:
    'total, amount, sum, grand total, price, value, total amount, gesamtbetrag, betrag, summe, gesamt, preis, montant, montant total, prix, somme, importe, importe total, precio, suma, importo, totale, prezzo, bedrag, totaalbedrag, prijs, totaal, valor, valor total, preço, kwota, suma, cena, wartość, belopp, summa, pris, totalt, 合計, 金額, 合計金額',
  currency: 'currency, währung, devise, monnaie, moneda, divisa, valuta, munt, moeda, waluta, valuta, 通貨',
  quantity:
    'quantity, qty, menge, stückzahl, quantité, cantidad, quantità, hoeveelheid, quantidade, ilość, kvantitet, 数量, 個数',
  coupon:
    'coupon, coupon code, discount code, promo code, promo, voucher, voucher code, promotion code, gutschein, gutscheincode, rabattcode, code promo, bon de réduction, cupón, código promocional, código de descuento, buono, codice sconto, codice promozionale, kortingscode, cupom, código promocional, cupão, kod rabatowy, kupon, rabattkod, クーポン, クーポンコード, 割引コード',
  billing:
    'billing, invoice, bill to, rechnung, rechnungs, facturation, facture, facturación, factura, fatturazione, fattura, facturatie, factuur, faturação, cobrança, fatura, rozliczenie, faktura, fakturering, 請求, 請求先',
  shipping:
    'shipping, delivery, ship to, liefer, lieferung, versand, livraison, envío, entrega, spedizione, consegna, bezorg, levering, verzend, envio, dostawa, wysyłka, leverans, 配送, お届け先, 配送先',
  'vat number':
    'vat, vat number, vat id, tax number, tax id, ust id, umsatzsteuer id, ustid, umsatzsteuer identifikationsnummer, steuernummer, numéro de tva, tva, nif, cif, número de iva, partita iva, piva, codice fiscale, btw nummer, btw, cnpj, contribuinte, nip, numer vat, momsnummer, moms, organisationsnummer, 法人番号',
  people:
    'people, persons, guests, attendees, participants, headcount, heads, visitors, seats, places, personen, personenzahl, teilnehmer, gäste, besucher, plätze, participants, personnes, invités, places, personas, asistentes, participantes, plazas, persone, partecipanti, ospiti, posti, deelnemers, gasten, plaatsen, pessoas, convidados, lugares, osób, osoby, uczestnicy, gości, miejsca, personer, deltagare, gäster, platser, 人数, 参加人数, 参加者',
  pupils:
    'pupils, students, children, schüler, schülerzahl, élèves, enfants, alumnos, niños, alunni, studenti, bambini, leerlingen, kinderen, alunos, crianças, uczniów, uczniowie, dzieci, elever, barn, 生徒, 児童, 学生',
  school:
    'school, schule, école, établissement, établissement scolaire, escuela, colegio, centro educativo, scuola, istituto, escola, szkoła, szkoły, skola, 学校',
  teacher:
    'teacher, teachers, lehrer, lehrerin, lehrkraft, enseignant, enseignante, professeur, profesor, maestro, insegnante, docente, leraar, docent, professor, nauczyciel, nauczyciela, lärare, lärarens, 教師, 先生, 教員',
  visit: 'visit, besuch, besuchs, visite, visita, bezoek, wizyta, wizyty, besök, 来館, 来場, 訪問, 見学',
  appointment:
    'appointment, booking, reservation, termin, buchung, reservierung, rendez vous, réservation, cita, reserva, appuntamento, prenotazione, afspraak, reservering, agendamento, marcação, rezerwacja, spotkanie, bokning, tid, 予約',
  event:
    'event, evening, veranstaltung, abend, événement, soirée, evento, tarde, serata, evenement, avond, wydarzenie, wieczór, evenemang, kväll, イベント',
  renewal:
    'renewal, renews, expiry, expires, verlängerung, ablauf, renouvellement, expiration, renovación, vencimiento, rinnovo, scadenza, verlenging, renovação, vencimento, odnowienie, förnyelse, 更新, 有効期限',
  budget: 'budget, presupuesto, orçamento, budżet, 予算',
  industry:
    'industry, sector, branche, secteur, secteur d activité, sector, settore, setor, branża, bransch, 業種, 業界',
  size: 'size, größe, groesse, taille, talla, tamaño, taglia, dimensione, maat, tamanho, rozmiar, storlek, サイズ',
  product:
    'product, item, article, produkt, artikel, produit, producto, artículo, prodotto, articolo, product, produto, artigo, produkt, vara, 商品, 製品',
  rating:
    'rating, score, stars, bewertung, note sur, évaluation, valoración, puntuación, valutazione, punteggio, beoordeling, avaliação, ocena, betyg, 評価',
  username:
    'username, user name, login, benutzername, nom d utilisateur, identifiant, nombre de usuario, nome utente, gebruikersnaam, nome de usuário, nazwa użytkownika, användarnamn, ユーザー名',
  talk: 'talk, lecture, speech, vortrag, conférence, charla, conferenza, lezing, palestra, wykład, föredrag, 講演',
  file: 'file, attachment, upload, document, cv, resume, datei, anhang, lebenslauf, fichier, pièce jointe, archivo, adjunto, allegato, bestand, bijlage, arquivo, anexo, ficheiro, plik, załącznik, fil, bilaga, ファイル, 添付',
  list: 'list, liste, lista, lijst, リスト',
  'somebody else':
    'friend, friends, referred by, colleague, partner, spouse, parent, guardian, child, manager, assistant, emergency, freund, kollege, eltern, notfall, ami, collègue, amigo, colega, amico, vriend, collega, przyjaciel, vän, kollega, 友人, 紹介者, 保護者',
  date: 'date, day, when, datum, tag, jour, fecha, día, data, giorno, dag, dia, dzień, 日付, 日にち, 日, 日時',
  time: 'time, hour, uhrzeit, zeit, heure, hora, ora, orario, tijd, godzina, tid, klockslag, 時間, 時刻',
  number:
    'number, no, nr, num, count, how many, id, code, anzahl, zahl, nummer, nombre de, numéro, n°, número, cantidad de, numero, aantal, numer, liczba, antal, 数, 番号',
  'label of it': 'name, title, nom, nombre, nome, naam, nazwa, namn, bezeichnung, titel, 名, 名称',
  contact: 'contact, kontakt, contacto, contatto, contato, kontaktowy, 連絡先, ご連絡先',
  preferred:
    'preferred, requested, wished, desired, favourite, suits you, wunsch, gewünscht, gewünschter, souhaitée, souhaité, préféré, préférée, preferido, preferida, deseado, deseada, preferito, preferita, gewenst, gewenste, voorkeur, preferowany, preferowana, önskat, önskad, 希望, ご希望',
  work: 'work, business, office, professional, geschäftlich, dienstlich, professionnel, professionnelle, pro, profesional, trabajo, aziendale, lavoro, zakelijk, werk, profissional, trabalho, służbowy, arbete, jobb, 勤務先, 会社の',
} as const;

/** Something that a field can be about. */
export type Meaning = keyof typeof WORDS;

/** Meanings and their words, as they are read by people. */
export const GLOSSARY = Object.entries(WORDS).map(([meaning, words]): [meaning: Meaning, words: string[]] => [
  meaning as Meaning,
  [...new Set(words.split(',').map((word) => word.trim()))],
]);

/**
 * Meanings that say little of a field beside another one: "number" in "number of pupils". Alone, they are what it is about.
 * Weights against 1 for the others.
 */
export const LIGHT: Partial<Record<Meaning, number>> = {
  'label of it': 0.15,
  contact: 0.15,
  preferred: 0.15,
  work: 0.15,
  number: 0.2,
  date: 0.25,
  time: 0.3,
  'opt in': 0.35,
  customer: 0.4,
};

/** Words that say nothing of what a field is about, in any of the languages. */
export const FILLERS = new Set(
  (
    'i have has am the a an of for to your my our you we us is are what which please enter in on at by and or with this it be do does should ' +
    'der die das des dem den ein eine ihr ihre ihren dein deine mein bitte und oder von vom zu zur zum für mit am im welche wie ' +
    'le la les l un une des du de d votre vos ton notre mon et ou pour avec à au aux s il vous plaît quel quelle ' +
    'el los las lo una uno del su tu sus tus mi nuestro y o para con por en al cuál qué ' +
    'il lo gli i uno della dello dei di tuo tua suo sua vostro vostra e per con da al alla ' +
    'het een uw je jouw mijn van voor met op aan ja en of wat ' +
    'os as um uma do da dos das seu sua seus suas teu tua nosso ou para com em no na ' +
    'twój twoje twoja pan pani państwa i lub dla z w na do ' +
    'ditt din dina ert er min mitt och eller för med på av till nej ' +
    'お ご の を に が は で へ と 欄 先 ください'
  ).split(' '),
);
