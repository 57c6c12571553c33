import { fieldsWith, listedAs, partIn } from '@tallystick/core/catalogue';
import type { Type } from '@tallystick/core/catalogue';
import { regionCode } from '@tallystick/core/regions';
import type { Condition, Group, Test } from '@tallystick/core/segments';

/** Conditions with states and provinces in any spelling as the codes that addresses have. */
export function withCodes(part: Condition | Group, home: string): Condition | Group {
  const coded = (type: Type | undefined, test: Test): Test => {
    if (type?.is !== 'text' || !type.among || test.is !== 'any-of') return test;
    const values = test.values.map((region) => regionCode(region, home) ?? region.trim());
    return { is: 'any-of', values: [...new Set(values)] };
  };
  switch (part.kind) {
    case 'group':
      return { ...part, parts: part.parts.map((inner) => withCodes(inner, home)) };
    case 'related':
      return { ...part, match: withCodes(part.match, home) as Group };
    case 'field':
      return { ...part, test: coded(BUILT_IN.get(part.field)?.type, part.test) };
    case 'rows': {
      const { parts } = listedAs(part.of);
      return {
        ...part,
        where: part.where.map((one) => ({ ...one, test: coded(partIn(parts, one.part)?.type, one.test) })),
      };
    }
    default:
      return part;
  }
}
const BUILT_IN = fieldsWith([]);
