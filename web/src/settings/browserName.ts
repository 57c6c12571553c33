/** The name of a browser and the system it runs on, out of what it says of itself. */
export function browserName(agent: string): string {
  // Those that say of themselves what they are not only come last.
  const name = ['Firefox', 'Edg', 'OPR', 'Chrome', 'Safari'].find((one) => agent.includes(`${one}/`)) ?? '';
  const system = ['Windows', 'iPhone', 'iPad', 'Android', 'Mac OS X', 'Linux'].find((one) => agent.includes(one)) ?? '';
  const said: Record<string, string> = { Edg: 'Edge', OPR: 'Opera', 'Mac OS X': 'macOS' };
  const words = [name, system].filter(Boolean).map((word) => said[word] ?? word);
  return words.length === 0 ? agent.slice(0, 40) || 'unknown' : words.join(' on ');
}
