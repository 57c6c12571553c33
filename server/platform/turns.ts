/** Lets whatever else waits for the server's one thread go first. */
export const othersTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
