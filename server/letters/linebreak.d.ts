declare module 'linebreak' {
  /** Where lines may and must break, by Unicode's UAX 14; places are counted in UTF-16 units. */
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { position: number; required: boolean } | null;
  }
}
