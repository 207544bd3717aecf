/** Names of the inputs that a form carries beside the source's own fields. */
export const TRAP_FIELD = 'website_url';
export const ELAPSED_FIELD = 'seconds_on_page';
/** In which a script says how many seconds it took to fill the form in. */
export const TOOK_FIELD = 'form_took';
/** In which a hosted page says when it was shown, signed. */
export const STAMP_FIELD = 'form_shown';

/** In which a form says which version of it stands there: by it is known which words people agreed to. */
export const VERSION_FIELD = 'form_version';

/** In which a form says where it was filled in. */
export const PAGE_FIELD = 'form_page';
export const REFERRER_FIELD = 'form_referrer';
export const PLACEMENT_FIELD = 'form_placement';
export const VARIANT_FIELD = 'form_variant';
/** In which our own page's script calls its showing by a name, so that it counts once also where it comes back with what is wrong. */
export const SHOWING_FIELD = 'form_showing';
/** In which a page's script calls one request by a name, so that it counts once however often it is sent. */
export const KEY_FIELD = 'form_key';

/** The name of the input that stands for a file that is kept. */
export const keptName = (key: string): string => `${key}.kept`;

/** A file that was sent before, and is kept while the rest of the form is mended. */
export interface KeptFile {
  name: string;
  /** Bytes. */
  size: number;
  /** By which it is found again. */
  token: string;
}

/** By which a visitor leaves a form half filled in, to go on later. */
export const LATER_FIELD = 'form_later';
/** In which a form says that it was gone on with, by the token of what was kept. */
export const KEPT_FIELD = 'form_kept';
/** In which a form says who the visitor is known to be: a token that we signed. */
export const VISITOR_FIELD = 'form_visitor';
/** In which a script says that it can work to show that it means it (can), or what it worked out. */
export const WORK_FIELD = 'form_work';
/** On which page somebody was. */
export const AT_FIELD = 'form_at';
