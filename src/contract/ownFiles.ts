/** No picture of a form is heavier: it would be there last on phones. */
export const PICTURE_BYTES = 500_000;

/** Says what a file that is added is called, encoded for a header (RFC 3986, 2.1). */
export const FILE_NAME_HEADER = 'x-file-name';

/** A picture or another file of the organisation's own. */
export interface OwnFileView {
  id: string;
  name: string;
  mediaType: string;
  size: number;
  /** Of a picture, in pixels; 0 for other files. */
  width: number;
  height: number;
  addedAt: string;
  /** The forms that show it or hand it out, live or in their drafts. */
  forms: { id: string; name: string }[];
}
