export interface Page<Row> {
  rows: Row[];
  /** Where the next page starts; null at the end. */
  next: string | null;
  /** How many were looked at for it, where what is searched for is common: the next page looks further. Absent where all were. */
  looked?: number;
}
