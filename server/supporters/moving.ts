import { addressKey, addressOn } from '@tallystick/core/contact';
import type { PostalAddress } from '@tallystick/core/contact';
import { addDays } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { placeKept } from '@tallystick/core/regions';
import type { Transaction } from '../platform/transaction.ts';
import { AddressTable } from './supporter.entity.ts';
import { storedOf } from './ways.ts';

/**
 * Where a supporter lives from a day on: what they used ends the day before, and the new one is used from that day, until
 * a move that was told of before. An address of a season stays. `home` is the country (ISO code) of addresses without
 * one. Answers the address that ended, and the one that follows with its day; `same` where they live there already, and
 * nothing is written.
 */
export async function moveTo(
  tx: Transaction,
  supporterId: number,
  place: PostalAddress,
  { from, today, home, label }: { from: IsoDate; today: IsoDate; home: string; label: string },
): Promise<{ ended: PostalAddress | null; next: (PostalAddress & { on: IsoDate }) | null; same: boolean }> {
  const { addresses = [] } = (await storedOf(tx.sql, [supporterId], undefined, ['address'])).get(supporterId) ?? {};
  await tx.lock(
    AddressTable,
    addresses.map(({ id }) => id),
  );
  const begun = from <= today;
  // Who moved on a day gone by, from an address that was noted later: it is the one that they use now that ends.
  const on = begun ? today : from;
  // Where mail comes back they do not live; it ends all the same.
  const standing = addresses.filter(({ seasonFrom }) => seasonFrom === null).map((one) => ({ ...one, badOn: null }));
  const used = addressOn(standing, on);
  const known = addresses.find(({ id }) => id === used?.id) ?? null;
  if (known && known.badOn === null && addressKey(known) === addressKey(place))
    return { ended: null, next: null, same: true };
  const [next] = standing
    .flatMap((one) => (one.validFrom !== null && one.validFrom > on ? [{ ...one, on: one.validFrom }] : []))
    .sort((a, b) => (a.on < b.on ? -1 : 1));
  const last = addDays(from, -1);
  // A move that was to come on the very day did not come about.
  const never = known !== null && !begun && known.validFrom === from;
  if (never) await tx.removeAll(AddressTable, [known.id]);
  else if (known)
    await tx.update(AddressTable, known.id, {
      valid_to: last,
      ...(known.valid_from !== null && known.valid_from > last ? { valid_from: null } : {}),
      ...(begun ? { label: 'former', preferred: 0 } : {}),
    });
  if (begun)
    await tx.updateAll(
      AddressTable,
      addresses.filter(({ preferred }) => preferred).map(({ id }) => id),
      { preferred: 0 },
    );
  const { street, city, postal } = place;
  const { region, country } = placeKept(place, home);
  await tx.insert(AddressTable, {
    ...{ supporter_id: supporterId, street, city, region, postal, country, label, preferred: begun ? 1 : 0 },
    ...{ valid_from: from, valid_to: next ? addDays(next.on, -1) : null, bad_on: null, bad_reason: '' },
    ...{ season_from: null, season_to: null },
  });
  return { ended: never ? null : known, next: next ?? null, same: false };
}
