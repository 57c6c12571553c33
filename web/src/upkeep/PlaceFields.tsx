import { Field, Input } from '../ui/controls.tsx';

export interface Place {
  street: string;
  city: string;
  region: string;
  postal: string;
  country: string;
}
export const NO_PLACE: Place = { street: '', city: '', region: '', postal: '', country: '' };
/** Whether enough is typed for an address. */
export const isPlace = ({ street, city }: Place): boolean => street.trim() !== '' || city.trim() !== '';

/** An address as it is typed. */
export function PlaceFields({ place, onChange }: { place: Place; onChange: (place: Place) => void }) {
  const field = (name: keyof Place, label: string, autoComplete: string, className?: string) => (
    <Field label={label} className={className}>
      {(given) => (
        <Input
          {...given}
          autoComplete={autoComplete}
          value={place[name]}
          onChange={(event) => onChange({ ...place, [name]: event.target.value })}
        />
      )}
    </Field>
  );
  return (
    <div className="grid grid-cols-[1fr_6rem_7rem] gap-x-3 gap-y-1">
      {field('street', 'Street', 'off', 'col-span-3')}
      {field('city', 'City', 'off')}
      {field('region', 'State', 'off')}
      {field('postal', 'ZIP', 'off')}
      {field('country', 'Country, if abroad', 'off', 'col-span-3')}
    </div>
  );
}
