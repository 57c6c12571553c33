/** Of so many texts it is seen whether they come again, */
const LOOKED_AT = 1_000;
/** and where fewer than one of so many did, */
const ONE_OF = 4;
/** nothing is kept of so many. */
const PASSED = 8_000;
/** A longer text is none that comes again, and a few thousand of them would take much room. */
const LONGEST = 200;

/**
 * A function of a text that keeps what it made of the `most` last ones: columns of files hold a few texts, each very
 * often. Where they seldom come again it keeps none for a while, since that would cost more than it saves. What is made
 * must depend on the text alone, and is shared by all who ask.
 */
export function lately<T extends NonNullable<unknown> | null>(
  make: (text: string) => T,
  most = 5_000,
): (text: string) => T {
  const kept = new Map<string, T>();
  let [asked, met, passing] = [0, 0, 0];
  return (text) => {
    if (text.length > LONGEST) return make(text);
    if (passing > 0) {
      passing--;
      return make(text);
    }
    if (++asked === LOOKED_AT) {
      if (met * ONE_OF < asked) passing = PASSED;
      asked = met = 0;
    }
    const known = kept.get(text);
    if (known !== undefined) {
      met++;
      return known;
    }
    const made = make(text);
    if (kept.size >= most) kept.clear();
    kept.set(text, made);
    return made;
  };
}
