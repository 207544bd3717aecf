/** The id of a part of a document: it outlives renaming and reordering. */
export const newPartId = (): string => crypto.randomUUID().slice(0, 8);
