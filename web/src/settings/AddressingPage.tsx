import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { addressing, DEFAULT_RULES, FORMS, PARTY_CASES, ruleFault, supporterParts } from '@tallystick/core/names';
import type { AddressedParty, AddressingRules, Form, FullName, PartyCase } from '@tallystick/core/names';
import { getAddressingRules, setAddressingRules } from '@tallystick/contract/setup';
import { ask, call } from '../ui/api.ts';
import { Button, Field, Heading, Input, Opening } from '../ui/controls.tsx';
import { EntryForm, Fault, readInto, useEntry } from '../ui/form/index.ts';
import { useMay } from '../ui/organization.tsx';

const CASES = Object.keys(PARTY_CASES) as PartyCase[];
const EACH_FORM = Object.keys(FORMS) as Form[];

const person = (prefix: string, first: string, last: string, nickname = ''): FullName => ({
  ...supporterParts({ prefix, first, middle: 'Lucía', last }),
  nickname,
});
const [ana, lee, jo] = [
  person('Dr.', 'Ana', 'Cruz', 'Anita'),
  person('Mr.', 'Lee', 'Cruz'),
  person('Ms.', 'Jo', 'Park'),
];
const household = { ...supporterParts({ kind: 'household', organization: 'The Cruz Family' }), nickname: '' };
const organization = { ...supporterParts({ kind: 'organization', organization: 'Cobalt Bakery' }), nickname: '' };
/** Someone of each case, so that a rule is seen at work while it is written. */
const EXAMPLES: Record<PartyCase, AddressedParty> = {
  person: { name: ana, people: [] },
  coupleSame: { name: household, people: [ana, lee] },
  coupleDifferent: { name: household, people: [ana, jo] },
  household: { name: household, people: [ana, lee, jo] },
  contact: { name: organization, people: [{ ...jo, role: 'Owner' }] },
  organization: { name: organization, people: [] },
  deceased: { name: ana, people: [], deceased: true },
};

/** The rules by which letters and envelopes address people, each with an example. */
export default function AddressingPage() {
  const { data, error } = useQuery(ask(getAddressingRules));
  return data ? <Rules kept={data.rules as AddressingRules} /> : <Opening error={error} />;
}

/** A fault is said while it is typed, since the example beside can't be made. */
const typedRules = readInto(
  z.object({ rules: z.custom<AddressingRules>() }).superRefine(({ rules }, context) => {
    for (const one of CASES)
      for (const form of EACH_FORM) {
        const message = ruleFault(rules[one][form]);
        if (message !== null) context.addIssue({ code: 'custom', path: ['rules', one, form], message });
      }
  }),
  setAddressingRules.body,
);

function Rules({ kept }: { kept: AddressingRules }) {
  const mayAdmin = useMay(setAddressingRules);
  const entry = useEntry({
    schema: typedRules,
    initial: { rules: kept },
    send: (body) => call(setAddressingRules, { body }),
    say: () => 'Saved',
  });
  const { rules } = entry.typed;
  return (
    <div className="overflow-auto">
      <Heading title="How people are addressed" facts="Texts written by hand on a record stay as they are">
        {mayAdmin && (
          <>
            <Button onClick={() => entry.put({ rules: DEFAULT_RULES })}>As they came</Button>
            <Button look="main" busy={entry.busy} onClick={() => entry.go()}>
              Save the rules
            </Button>
          </>
        )}
      </Heading>
      <p className="max-w-3xl px-5 pt-3 text-faded">
        A rule is one or more texts with | between them; the first whose every field has a value is used. {'{a.first}'}{' '}
        is the first person’s first name, {'{b.last}'} the second’s last name, {'{a.known}'} the nickname or else the
        first name, {'{name}'} the household or organization. A field that may be empty ends in a question mark.
      </p>
      <EntryForm entry={entry} className="space-y-0">
        {CASES.map((one) => (
          <section key={one} aria-label={PARTY_CASES[one]} className="px-5 py-3">
            <h2 className="text-[15px]">{PARTY_CASES[one]}</h2>
            <div className="grid grid-cols-2 gap-3">
              {EACH_FORM.map((form) => (
                <Field
                  key={form}
                  name={`rules.${one}.${form}`}
                  label={FORMS[form]}
                  error={ruleFault(rules[one][form]) ?? entry.fault(`rules.${one}.${form}`)}
                  hint={addressing(EXAMPLES[one], rules)[form]}
                >
                  {(attributes) => (
                    <Input
                      {...attributes}
                      readOnly={!mayAdmin}
                      value={rules[one][form]}
                      onChange={(event) =>
                        entry.put({ rules: { ...rules, [one]: { ...rules[one], [form]: event.target.value } } })
                      }
                    />
                  )}
                </Field>
              ))}
            </div>
          </section>
        ))}
        <div className="px-5">
          <Fault>{entry.trouble}</Fault>
        </div>
      </EntryForm>
    </div>
  );
}
