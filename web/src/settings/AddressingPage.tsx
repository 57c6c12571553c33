import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { addressing, DEFAULT_RULES, FORMS, PARTY_CASES, ruleFault, supporterParts } from '@tallystick/core/names';
import type { AddressedParty, AddressingRules, Form, FullName, PartyCase } from '@tallystick/core/names';
import { getAddressingRules, setAddressingRules } from '@tallystick/contract/setup';
import { ask, call } from '../ui/api.ts';
import { Button, Field, Heading, Input, Trouble } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

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
  if (error) return <Trouble error={error} />;
  if (!data) return <p className="p-5 text-faded">Opening …</p>;
  return <Rules kept={data.rules as AddressingRules} />;
}

function Rules({ kept }: { kept: AddressingRules }) {
  const mayAdmin = useMay(setAddressingRules);
  const [rules, setRules] = useState(kept);
  const save = useWrite(() => call(setAddressingRules, { body: { rules } }), { say: () => 'Saved' });
  const cases = Object.keys(PARTY_CASES) as PartyCase[];
  const faulty = cases.some((one) => Object.values(rules[one]).some((rule) => ruleFault(rule) !== null));
  return (
    <div className="overflow-auto">
      <Heading title="How people are addressed" facts="Texts written by hand on a record stay as they are">
        {mayAdmin && (
          <>
            <Button onClick={() => setRules(DEFAULT_RULES)}>As they came</Button>
            <Button look="main" disabled={faulty || save.isPending} onClick={() => save.mutate(undefined)}>
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
      {cases.map((one) => (
        <section key={one} aria-label={PARTY_CASES[one]} className="px-5 py-3">
          <h2 className="text-[15px]">{PARTY_CASES[one]}</h2>
          <div className="grid grid-cols-2 gap-3">
            {(Object.keys(FORMS) as Form[]).map((form) => {
              const fault = ruleFault(rules[one][form]);
              return (
                <Field
                  key={form}
                  label={FORMS[form]}
                  error={fault ?? undefined}
                  hint={addressing(EXAMPLES[one], rules)[form]}
                >
                  {(attributes) => (
                    <Input
                      {...attributes}
                      readOnly={!mayAdmin}
                      value={rules[one][form]}
                      onChange={(event) => setRules({ ...rules, [one]: { ...rules[one], [form]: event.target.value } })}
                    />
                  )}
                </Field>
              );
            })}
          </div>
        </section>
      ))}
    </div>
  );
}
