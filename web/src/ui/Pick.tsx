import { ToggleGroup } from 'radix-ui';

/** One of a few words side by side, of which one always holds: one stop of Tab, with arrows from one to the next. */
export function Pick<Value extends string>(props: {
  label: string;
  options: readonly { value: Value; label: string }[];
  value: Value;
  onChange: (value: Value) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={props.label}
      className="flex flex-wrap gap-1"
      value={props.value}
      onValueChange={(value) => value !== '' && props.onChange(value as Value)}
    >
      {props.options.map(({ value, label }) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          className="h-8 rounded border border-rule bg-sheet px-3 text-sm font-medium text-ink hover:bg-hover data-[state=on]:border-slate data-[state=on]:bg-slate data-[state=on]:text-on-slate forced-colors:data-[state=on]:outline-2"
        >
          {label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
