import type { SourceField } from '../values/index.ts';
import type { Ending } from './endings.ts';
import type { FormItem } from './items.ts';
import type { Look } from './look.ts';
import type { FormVariant, VariantFace } from './variants.ts';

/** Stands in a document for the address of a file that the organisation keeps with us, before its id. */
const OWN = 'own:';

/** How a picture that is kept with us stands in a document. */
export const ownPicture = (id: string): string => `${OWN}${id}`;

/** What stands in a document for a picture: one of ours, or the whole address of another. */
export const PICTURE_ADDRESS = /^(own:[\w-]{1,64}|https?:\/\/\S+)$/;

/** The same, or nothing. */
export const MAYBE_PICTURE = new RegExp(`^$|${PICTURE_ADDRESS.source}`);

/** Where browsers find a picture. @param base our own public address, without a slash at its end */
export const pictureAddress = (base: string, url: string): string =>
  url.startsWith(OWN) ? `${base}/place/files/${url.slice(OWN.length)}` : url;

type Form = VariantFace & { endings: Ending[]; instead: Ending[]; variants: FormVariant[] };

/** The ids of the files of ours that a form shows or hands out. */
export function filesOf(form: Form): string[] {
  const faces = [form, ...form.variants.flatMap(({ face }) => face ?? [])];
  const pictures = faces.flatMap(({ items, fields, look }) => [
    ...items.flatMap((item) => (item.kind === 'picture' ? [item.url] : [])),
    ...fields.flatMap((field) => field.pictures),
    look.picture?.url ?? '',
  ]);
  const endings = [...faces.map(({ ending }) => ending), ...form.endings, ...form.instead];
  return [
    ...pictures.flatMap((url) => (url.startsWith(OWN) ? [url.slice(OWN.length)] : [])),
    ...endings.flatMap(({ download }) => (download?.file ? [download.file] : [])),
  ];
}

/** A form in which each picture stands by the address where browsers find it. @param base our own public address */
export function withPictures<F extends Pick<Form, keyof VariantFace | 'variants'>>(form: F, base: string): F {
  return {
    ...form,
    ...facePictures(form, base),
    variants: form.variants.map((variant) => ({
      ...variant,
      face: variant.face && { ...variant.face, ...facePictures(variant.face, base) },
    })),
  };
}

const facePictures = ({ items, fields, look }: VariantFace, base: string) => ({
  items: items.map((item): FormItem =>
    item.kind === 'picture' ? { ...item, url: pictureAddress(base, item.url) } : item,
  ),
  fields: fields.map((field): SourceField =>
    field.pictures.length === 0
      ? field
      : { ...field, pictures: field.pictures.map((url) => pictureAddress(base, url)) },
  ),
  look: lookPictures(look, base),
});

const lookPictures = (look: Look, base: string): Look =>
  look.picture ? { ...look, picture: { ...look.picture, url: pictureAddress(base, look.picture.url) } } : look;
