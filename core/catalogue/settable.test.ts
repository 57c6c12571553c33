import { describe, expect, it } from 'vitest';
import { FIELDS, SETTABLE, settableIn } from './index.ts';

describe('fields that many can be given', () => {
  it('are those of which many have the same, each with where it is kept', () => {
    expect(SETTABLE).toEqual(['title', 'suffix', 'organization-kind', 'state', 'town', 'postal']);
    for (const name of SETTABLE) expect(settableIn(name)).toMatchObject({ set: { longest: expect.any(Number) } });
    expect(settableIn('town')).toMatchObject({ label: 'Town', set: { of: 'address', column: 'city' } });
  });

  it('are none but those, whatever is asked for', () => {
    const others = Object.keys(FIELDS).filter((name) => !SETTABLE.includes(name));
    expect(others).toContain('last');
    for (const name of [...others, 'own:1', 'constructor', '__proto__', '']) expect(settableIn(name)).toBeNull();
  });
});
