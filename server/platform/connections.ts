/**
 * What every connection to the database begins with: of a list of up to 999 each value is looked up where it stands. By
 * what a value has on average, of a column that is mostly empty (as references are) the whole table would be read for it.
 */
export const EACH_LOOKED_UP = 'SET SESSION eq_range_index_dive_limit = 0';
