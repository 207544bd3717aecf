/** The list of places in what came that can be chosen where a path is entered. */
export const PLACES = 'places-in-payloads';
