/** Of a supporter the rows that were asked about, in the order of facts: days and amounts from `begin` to before `end`. */
export interface Given {
  begin: number;
  end: number;
  days: Int32Array;
  cents: Float64Array;
  today: number;
  fiscalYearStart: number;
  /** Whether they are in the order of their days. */
  inTurn: boolean;
}
