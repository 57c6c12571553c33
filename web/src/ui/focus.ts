/* Where the focus was, so that what took it can give it back. */

const MOST = 20;
const trail: HTMLElement[] = [];

/** What a menu's item stands for once the menu has gone: the button that opened it. */
function standing(element: HTMLElement): HTMLElement {
  const button = element.closest('[role=menu]')?.getAttribute('aria-labelledby');
  return (button && document.getElementById(button)) || element;
}

document.addEventListener('focusin', ({ target }) => {
  if (!(target instanceof HTMLElement)) return;
  trail.push(standing(target));
  if (trail.length > MOST) trail.shift();
});

/** What had the focus last and lies outside a dialog, and is still there; null where nothing is. */
export const focusBefore = (dialog: Element): HTMLElement | null =>
  trail.findLast((element) => element.isConnected && !dialog.contains(element)) ?? null;
