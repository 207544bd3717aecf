export interface Page<Row> {
  rows: Row[];
  /** Where the next page starts; null at the end. */
  next: string | null;
}
