import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import { showField } from '@tallystick/core/fields';
import { listFields } from '@tallystick/contract/fields';
import { getGift } from '@tallystick/contract/gifts';
import { receiptPdf } from '@tallystick/contract/thanks';
import { call, linkTo } from '../ui/api.ts';
import { StateWord, Trouble } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';

/** One gift, in the peek and on its own page. */
export function GiftView({ id }: { id: number }) {
  const { money, date } = useFormats();
  const { data: gift, error } = useQuery({
    queryKey: ['gift', id],
    queryFn: ({ signal }) => call(getGift, { params: { id }, signal }),
  });
  const own = useQuery({ queryKey: ['fields'], queryFn: ({ signal }) => call(listFields, { signal }) });
  if (error) return <Trouble error={error} />;
  if (!gift) return <p className="p-5 text-faded">Opening …</p>;
  const lines: [string, string][] = [
    ['Date', date(gift.date)],
    ['Fund', gift.fund],
    ['Campaign', gift.campaign || 'none'],
    ['Appeal', gift.appeal || 'none'],
    ['Payment method', PAYMENT_METHODS[gift.method] + (gift.cheque ? `, number ${gift.cheque}` : '')],
    ['Outside reference', gift.reference || 'none'],
    ['Note', gift.note || 'none'],
    ...(own.data?.items ?? []).flatMap((field): [string, string][] =>
      gift.fields[field.id] === undefined ? [] : [[field.name, showField(field, gift.fields[field.id] ?? '')]],
    ),
  ];
  return (
    <article className="px-5 py-4" aria-label={`Gift ${gift.number}`}>
      <h1 className="text-2xl">
        {money(gift.cents)} <span className="text-base font-normal text-faded">{gift.number}</span>
      </h1>
      <p className="mt-1">
        from{' '}
        <Link className="font-serif text-[15px] text-slate hover:underline" to={`/supporters/${gift.supporterId}`}>
          {gift.supporterName}
        </Link>
      </p>
      <p className="mt-2">
        {gift.acknowledgedOn === null ? (
          <StateWord tone="look">Not thanked yet</StateWord>
        ) : (
          <StateWord tone="settled">
            Thanked {date(gift.acknowledgedOn)}
            {gift.receiptId !== null && (
              <>
                , receipt{' '}
                <a
                  className="underline"
                  href={linkTo(receiptPdf, { id: gift.receiptId })}
                  target="_blank"
                  rel="noreferrer"
                >
                  {gift.receiptNumber}
                </a>
              </>
            )}
          </StateWord>
        )}
      </p>
      <dl className="mt-4 grid max-w-xl grid-cols-[10rem_1fr] gap-y-1.5">
        {lines.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-faded">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </article>
  );
}
