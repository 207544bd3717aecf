/** What a browser says of itself that nobody steers: others are robots, and are not counted. */
export const BROWSER =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36';
