import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { getOrganization, setOrganization, testMail } from '@tallystick/contract/organization';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { getSession } from '@tallystick/contract/session';
import { ask, call, keyOf, queries } from '../ui/api.ts';
import { Button, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { FormatFields, typedFormats } from '../ui/FormatFields.tsx';
import { EntryForm, Fault, LongField, readInto, said, TextField, useEntry } from '../ui/form/index.ts';
import { useHere, useMay } from '../ui/organization.tsx';

type Own = ResponseOf<typeof getOrganization>;

/** What the organization is called, how it writes, who signs its letters, and how its mail goes. */
export default function OrganizationPage() {
  const { data, error } = useQuery({ ...ask(getOrganization), staleTime: 0 });
  const mayChange = useMay(setOrganization);
  if (error && !data) return <Trouble error={error} />;
  return (
    <div className="overflow-auto">
      <Heading title="The organization" facts={mayChange ? '' : 'An administrator changes it'} />
      {data && (
        <div className="grid max-w-5xl gap-x-10 gap-y-6 px-5 py-4 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
          <Own key={data.version} own={data} mayChange={mayChange} />
          <Mail own={data} mayChange={mayChange} />
        </div>
      )}
    </div>
  );
}

function Own({ own, mayChange }: { own: Own; mayChange: boolean }) {
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          ...typedFormats,
          name: said('Write its name.'),
          letterhead: z.string(),
          taxId: z.string(),
          signature: z.string(),
          mailFrom: z.string(),
        })
        .transform((typed) => ({ ...typed, version: own.version })),
      setOrganization.body,
    ),
    initial: {
      ...{
        name: own.name,
        letterhead: own.letterhead,
        taxId: own.taxId,
        signature: own.signature,
        mailFrom: own.mailFrom,
      },
      ...{ currency: own.currency, locale: own.locale, timeZone: own.timeZone, country: own.country },
      fiscalYearStart: String(own.fiscalYearStart),
    },
    send: (body) => call(setOrganization, { body }),
    say: () => 'Saved; what was issued keeps the words that it had',
    then: () => void queries.invalidateQueries({ queryKey: keyOf(getSession) }),
  });
  const { name, letterhead, taxId } = entry.typed;
  return (
    <EntryForm entry={entry}>
      <fieldset disabled={!mayChange} className="space-y-3">
        <TextField entry={entry} name="name" label="Name" />
        <div className="grid grid-cols-[1.6fr_1fr] gap-3">
          <LongField entry={entry} name="letterhead" label="Address, as at the head of letters" rows={3} />
          <TextField entry={entry} name="taxId" label="Tax number" hint="Stands on receipts." />
        </div>
        <div className="grid grid-cols-3 gap-3">
          <FormatFields entry={entry} currencyStays={own.currencyStays || !mayChange} />
        </div>
        <div className="grid grid-cols-2 gap-3">
          <TextField
            entry={entry}
            name="signature"
            label="Who signs letters"
            placeholder="Ana Cruz, Director"
            hint="The merge field “Our signature”; empty, our name stands there."
          />
          <TextField entry={entry} name="mailFrom" label="E-mails come from" type="email" />
        </div>
        <section aria-label="Letterhead" className="rounded border border-rule bg-sheet px-4 py-3">
          <p className="font-serif text-xl font-semibold text-hazel">{name}</p>
          {[...letterhead.split('\n'), taxId && `Tax ID ${taxId}`].filter(Boolean).map((line) => (
            <p key={line} className="text-[13px] text-faded">
              {line}
            </p>
          ))}
          <p className="mt-2 border-t border-hazel pt-1 text-[12px] text-faded">The head of letters and receipts</p>
        </section>
        <Fault>{entry.trouble}</Fault>
        {mayChange && (
          <Button look="main" type="submit" busy={entry.busy}>
            Save
          </Button>
        )}
      </fieldset>
    </EntryForm>
  );
}

/** Where mail goes, and a test of it by a real message. */
function Mail({ own, mayChange }: { own: Own; mayChange: boolean }) {
  const { user, mailInbox } = useHere();
  const entry = useEntry({
    schema: testMail.body,
    initial: { to: user.email },
    send: (body) => call(testMail, { body }),
  });
  const { result } = entry;
  return (
    <section aria-labelledby="mail" className="space-y-2">
      <h2 id="mail" className="text-lg">
        Mail
      </h2>
      <p>
        Goes by way of <code>{own.mailServer}</code>
        {mailInbox && (
          <>
            : the mail room that comes with Tallystick and lets nothing out.{' '}
            <a className="text-slate underline" href={mailInbox} target="_blank" rel="noreferrer">
              Its inbox
            </a>
          </>
        )}
        . Another server is named when Tallystick is started (SMTP_URL).
      </p>
      <p>
        Links in e-mails lead to{' '}
        {own.publicUrl ?? <StateWord tone="look">this computer only: PUBLIC_URL is not set</StateWord>}.
      </p>
      {mayChange && (
        <EntryForm entry={entry}>
          <TextField entry={entry} name="to" label="Send a test to" type="email" />
          <Button type="submit" busy={entry.busy}>
            Send a test e-mail
          </Button>
          <Fault>{entry.trouble}</Fault>
          {result && (
            <p role="status">
              <StateWord tone={result.arrived ? 'settled' : 'wrong'}>{result.says}</StateWord>
            </p>
          )}
        </EntryForm>
      )}
    </section>
  );
}
