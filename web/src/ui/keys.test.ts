import { describe, expect, it } from 'vitest';
import { KEY_MAP, keyName } from './keys.tsx';

const pressed = (key: string, held: Partial<Record<'ctrlKey' | 'metaKey' | 'shiftKey', boolean>> = {}): string =>
  keyName({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held } as KeyboardEvent);

describe('keyName', () => {
  it.each([
    ['j', {}, 'j'],
    ['J', { shiftKey: true }, 'j'],
    ['?', { shiftKey: true }, '?'],
    ['Enter', { shiftKey: true }, 'Shift+Enter'],
    ['z', { ctrlKey: true }, 'Ctrl+z'],
    ['z', { metaKey: true }, 'Ctrl+z'],
    ['Z', { ctrlKey: true, shiftKey: true }, 'Ctrl+Shift+z'],
    ['Escape', {}, 'Escape'],
  ])('%s with %j is %s', (key, held, expected) => expect(pressed(key, held)).toBe(expected));
});

it('the key map names no key twice', () => expect(new Set(KEY_MAP.map(([key]) => key)).size).toBe(KEY_MAP.length));
