import { Dialog as RadixDialog, DropdownMenu } from 'radix-ui';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from './controls.tsx';

/** A dialog over the page; Escape and the cross close it. */
export function Dialog(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  about?: string;
  wide?: boolean;
  /** Between the usual width and the wide one. */
  medium?: boolean;
  children: ReactNode;
}) {
  return (
    <RadixDialog.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content
          {...(props.about ? {} : { 'aria-describedby': undefined })}
          className={`fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[calc(100vw-2rem)] -translate-x-1/2 overflow-auto rounded border border-rule bg-paper ${props.wide ? 'max-w-4xl' : props.medium ? 'max-w-2xl' : 'max-w-xl'}`}
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
          <div className="px-5 py-4">{props.children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
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

export function Menu(props: {
  trigger: ReactNode;
  items: readonly MenuItem[];
  label?: string;
  open?: boolean;
  onOpen?: (open: boolean) => void;
}) {
  const { trigger, items, label } = props;
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
