import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useRef } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { useStored } from '../useStored.ts';
import { classes } from '../classes.ts';
import { ITEM } from './looks.ts';
import { afterChoosing, found, MOST_SHOWN } from './options.ts';
import type { Option } from './options.ts';

const PANEL =
  'z-[60] min-w-(--radix-popover-trigger-width) max-w-[min(36rem,90vw)] rounded border border-rule bg-sheet text-ink';

/** The panel of a choice box: a line to type in and what answers to it. It stands in a popover. */
export function ChoiceList(props: {
  label: string;
  options: readonly Option[];
  /** Names what was chosen lately, here and in other boxes of the same things. */
  remember?: string | undefined;
  query: string;
  onQuery: (query: string) => void;
  onChoose: (value: string) => void;
  onAdd?: ((text: string) => void) | undefined;
  onKeyDown?: ((event: KeyboardEvent<HTMLInputElement>) => void) | undefined;
  mark: (option: Option) => ReactNode;
  /** True where what was chosen opens something else, which then has the focus. */
  handsOn?: boolean | undefined;
}) {
  const { options, query, onChoose, onAdd } = props;
  const [{ lately }, setLately] = useStored<{ lately: string[] }>(`chosen:${props.remember ?? ''}`, { lately: [] });
  const hits = found(options, query, props.remember === undefined ? [] : lately);
  const shown = hits.slice(0, MOST_SHOWN);
  const typed = query.trim();
  const isNew = typed !== '' && !options.some((option) => option.label.toLowerCase() === typed.toLowerCase());
  const chose = useRef(false);
  const choose = (value: string): void => {
    chose.current = true;
    if (props.remember !== undefined && value !== '')
      setLately((old) => ({ lately: afterChoosing(old.lately, value) }));
    onChoose(value);
  };
  return (
    <Popover.Portal>
      <Popover.Content
        align="start"
        sideOffset={2}
        collisionPadding={8}
        className={PANEL}
        onCloseAutoFocus={(event) => props.handsOn && chose.current && event.preventDefault()}
      >
        <Command label={props.label} shouldFilter={false} loop>
          <Command.Input
            autoFocus
            value={query}
            onValueChange={props.onQuery}
            onKeyDown={props.onKeyDown}
            placeholder="Type any part of it"
            className="h-9 w-full border-b border-rule bg-transparent px-3 outline-none placeholder:text-faded"
          />
          <Command.List className="max-h-[min(20rem,50vh)] overflow-auto py-1">
            {shown.map((option) => (
              <Command.Item
                key={option.value}
                value={String(option.value) || 'nothing'}
                onSelect={() => choose(String(option.value))}
                className={ITEM}
              >
                <span className={classes(option.value === '' && 'text-faded')}>{option.label}</span>
                {option.also && <span className="text-[12px] text-faded">{option.also}</span>}
                {option.closed && <span className="text-[12px] text-faded">closed</span>}
                {props.mark(option)}
              </Command.Item>
            ))}
            {onAdd && isNew && (
              <Command.Item value={`add ${typed}`} onSelect={() => onAdd(typed)} className={ITEM}>
                Add “{typed}”
              </Command.Item>
            )}
            {hits.length > shown.length && (
              <p className="px-3 py-1.5 text-[13px] text-faded">
                and {(hits.length - shown.length).toLocaleString()} more: type on
              </p>
            )}
            {hits.length === 0 && !(onAdd && isNew) && (
              <p role="status" className="px-3 py-1.5 text-faded">
                Nothing has “{typed}”.
              </p>
            )}
          </Command.List>
        </Command>
      </Popover.Content>
    </Popover.Portal>
  );
}
