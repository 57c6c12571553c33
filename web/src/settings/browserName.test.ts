import { expect, it } from 'vitest';
import { browserName } from './browserName.ts';

it.each([
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36',
    'Chrome on Linux',
  ],
  [
    'Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36 Edg/140.0',
    'Edge on Windows',
  ],
  [
    'Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15) AppleWebKit/605.1 (KHTML, like Gecko) Version/18 Safari/605.1',
    'Safari on macOS',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1 Version/18 Mobile Safari/604.1',
    'Safari on iPhone',
  ],
  ['curl/8.1', 'curl/8.1'],
  ['', 'unknown'],
])('%j is %s', (agent, name) => expect(browserName(agent)).toBe(name));
