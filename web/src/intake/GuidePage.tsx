import { Printer } from 'lucide-react';
import { INTAKE_FIELDS, INTAKE_GROUPS } from '@tallystick/core/intake';
import type { Destination } from '@tallystick/core/intake';
import { Button, Heading } from '../ui/controls.tsx';
import { useQuery } from '@tanstack/react-query';
import { listFields } from '@tallystick/contract/fields';
import { ask } from '../ui/api.ts';

/** Every place that a column of a file may go to, with what it holds and an example; to be printed and handed on. */
export default function GuidePage() {
  const own = useQuery(ask(listFields)).data?.items ?? [];
  const fields: Destination[] = Object.values(INTAKE_FIELDS);
  return (
    <>
      <Heading title="What a file may hold" facts="Every place for a column, with what it holds and an example.">
        <Button onClick={() => window.print()}>
          <Printer size={14} /> Print
        </Button>
      </Heading>
      <div className="min-h-0 flex-1 overflow-auto px-5 pb-6 print:overflow-visible">
        {INTAKE_GROUPS.map((group) => (
          <section key={group} aria-label={group}>
            <h2 className="mt-4 font-serif text-[17px]">{group}</h2>
            <table className="mt-1 w-full max-w-[62rem] border-collapse">
              <tbody>
                {fields
                  .filter((field) => field.group === group)
                  .map(({ label, says, example, times = 1 }) => (
                    <tr key={label} className="border-b border-rule align-top">
                      <th scope="row" className="w-60 py-1 pr-3 text-left font-medium">
                        {label}
                      </th>
                      <td className="py-1 pr-3">
                        {says}
                        {times > 1 && <span className="text-faded"> (up to {times} columns)</span>}
                      </td>
                      <td className="w-64 py-1 font-serif">{example}</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </section>
        ))}
        {own.length > 0 && (
          <section aria-label="Own fields">
            <h2 className="mt-4 font-serif text-[17px]">Own fields</h2>
            <p>{own.map(({ name }) => name).join(', ')}</p>
          </section>
        )}
      </div>
    </>
  );
}
