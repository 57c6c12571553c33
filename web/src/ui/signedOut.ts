/* Requests that were refused because the session ended wait here until whoever sat there has signed in again. */

const waiting = new Set<() => void>();

/** Settles once someone has signed in again; refused when the question itself was given up meanwhile. */
export const untilSignedIn = (signal: AbortSignal | null | undefined): Promise<void> =>
  new Promise((resolve, reject) => {
    waiting.add(resolve);
    signal?.addEventListener('abort', () => {
      waiting.delete(resolve);
      reject(new DOMException('Given up.', 'AbortError'));
    });
  });

/** Sends on its way what waited. */
export function signedInAgain(): void {
  for (const go of waiting) go();
  waiting.clear();
}
