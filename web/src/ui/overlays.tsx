import { AlertDialog, Dialog as RadixDialog, DropdownMenu } from 'radix-ui';
import { X } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { classes } from './classes.ts';
import { Button, IconButton } from './controls.tsx';
import { focusBefore } from './focus.ts';
import { DialogContext, Unsaved } from './form/unsaved.ts';

/** A dialog begins at its first field, never at its cross; one without fields at its main button, which Enter then presses. */
function firstField(event: Event, dialog: HTMLElement): void {
  const first =
    dialog.querySelector<HTMLElement>(
      'input:not([type=hidden]):not(:disabled), textarea:not(:disabled), [role=combobox]:not(:disabled), [contenteditable=true]',
    ) ??
    dialog.querySelector<HTMLElement>('button[data-look=main]:not(:disabled)') ??
    dialog.querySelector<HTMLElement>('button:not(:disabled):not([aria-label=Close])');
  if (!first || dialog.contains(document.activeElement)) return;
  event.preventDefault();
  first.focus();
}

const SIZES = { usual: 'max-w-xl', medium: 'max-w-2xl', wide: 'max-w-4xl' };

/**
 * A dialog over the page; Escape and the cross close it, and ask first where something typed would be lost. The focus
 * goes back to where it was.
 */
export function Dialog(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  about?: string;
  size?: keyof typeof SIZES | undefined;
  children: ReactNode;
}) {
  const before = useRef<HTMLElement | null>(null);
  const [asking, setAsking] = useState(false);
  const [unsaved] = useState(() => new Unsaved());
  const { onClose } = props;
  const around = useMemo(
    () => ({ unsaved, leave: () => (unsaved.any ? setAsking(true) : onClose()) }),
    [unsaved, onClose],
  );
  return (
    <RadixDialog.Root open={props.open} onOpenChange={(open) => !open && around.leave()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content
          onOpenAutoFocus={(event) => {
            const dialog = event.currentTarget as HTMLElement;
            before.current = focusBefore(dialog);
            firstField(event, dialog);
          }}
          onCloseAutoFocus={(event) => {
            const back = before.current;
            if (!back?.isConnected) return;
            event.preventDefault();
            back.focus({ preventScroll: true });
          }}
          {...(props.about ? {} : { 'aria-describedby': undefined })}
          className={classes(
            'fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[calc(100vw-2rem)] -translate-x-1/2 overflow-auto rounded border border-rule bg-paper',
            SIZES[props.size ?? 'usual'],
          )}
        >
          <div className="sticky top-0 z-10 flex items-center justify-between border-b border-rule bg-paper px-5 py-3">
            <RadixDialog.Title className="text-lg">{props.title}</RadixDialog.Title>
            <RadixDialog.Close asChild>
              <IconButton label="Close">
                <X size={16} />
              </IconButton>
            </RadixDialog.Close>
          </div>
          {props.about && (
            <RadixDialog.Description className="px-5 pt-3 text-faded">{props.about}</RadixDialog.Description>
          )}
          <DialogContext value={around}>
            <div className="px-5 py-4">{props.children}</div>
          </DialogContext>
          <AskToLeave
            open={asking}
            onStay={() => setAsking(false)}
            onLeave={() => {
              setAsking(false);
              unsaved.drop();
              onClose();
            }}
          />
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

/** Asks before something typed is lost; Escape goes back to it. */
export function AskToLeave(props: { open: boolean; onStay: () => void; onLeave: () => void }) {
  return (
    <AlertDialog.Root open={props.open} onOpenChange={(open) => !open && props.onStay()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-60 bg-black/35" />
        <AlertDialog.Content className="fixed top-[24vh] left-1/2 z-60 w-[calc(100vw-2rem)] max-w-md -translate-x-1/2 rounded border border-rule bg-paper px-5 py-4">
          <AlertDialog.Title className="text-lg">What you typed is not saved</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-faded">If you leave now, it is gone.</AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep writing</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button look="danger" onClick={props.onLeave}>
                Throw it away
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

/** The buttons of a dialog, the main one last; they stay in sight however long the dialog is. */
export const DialogActions = ({ children }: { children: ReactNode }) => (
  <div className="sticky bottom-0 -mx-5 mt-4 -mb-4 flex items-center justify-end gap-2 border-t border-rule bg-paper px-5 py-3">
    {children}
  </div>
);

export interface MenuItem {
  label: ReactNode;
  onSelect: () => void;
  keys?: string;
  disabled?: boolean;
}

const TYPED_TOGETHER_MS = 1000;

/**
 * Moves in a menu to the item that begins with what is typed, at once: the menu's own way moves a moment later, and
 * whoever types a letter and Enter in one go on a slow page would choose the item before.
 */
function useTypedItem(): (event: KeyboardEvent<HTMLElement>) => void {
  const typed = useRef({ text: '', at: 0 });
  return (event) => {
    if (event.key.length !== 1 || event.key === ' ' || event.ctrlKey || event.altKey || event.metaKey) return;
    event.preventDefault();
    const { text, at } = typed.current;
    const now = (event.timeStamp - at < TYPED_TOGETHER_MS ? text : '') + event.key.toLowerCase();
    typed.current = { text: now, at: event.timeStamp };
    const items = [...event.currentTarget.querySelectorAll<HTMLElement>('[role=menuitem]:not([data-disabled])')];
    const here = items.findIndex((item) => item === document.activeElement);
    const [first = ''] = now;
    // One letter again and again goes from one item that begins with it to the next.
    const again = now.length > 1 && [...now].every((letter) => letter === first);
    const order = again ? [...items.slice(here + 1), ...items.slice(0, here + 1)] : items;
    const wanted = again ? first : now;
    order.find((item) => item.innerText.toLowerCase().startsWith(wanted))?.focus();
  };
}

export function Menu(props: {
  trigger: ReactNode;
  items: readonly MenuItem[];
  label?: string;
  open?: boolean;
  onOpen?: (open: boolean) => void;
}) {
  const { trigger, items, label } = props;
  const onKey = useTypedItem();
  return (
    <DropdownMenu.Root
      {...(props.open === undefined ? {} : { open: props.open })}
      {...(props.onOpen ? { onOpenChange: props.onOpen } : {})}
    >
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          aria-label={label}
          onKeyDown={onKey}
          className="z-50 min-w-44 rounded border border-rule bg-sheet py-1"
        >
          {items.map((item, index) => (
            <DropdownMenu.Item
              key={index}
              disabled={item.disabled ?? false}
              onSelect={item.onSelect}
              className="flex cursor-pointer items-center justify-between gap-6 px-3 py-1.5 outline-none data-[disabled]:opacity-50 data-[highlighted]:bg-hover"
            >
              {item.label}
              {item.keys && <span className="text-[12px] text-faded">{item.keys}</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
