import { useEffect } from 'react';

/** Where the focus goes when what had it is no more: the nearest thing around it that stands and is one in itself. */
const PLACES = '[role=dialog], aside, form, section[aria-label], article, main';

/**
 * Hands the focus on when what had it vanishes (a form that was saved, a page that was left, a row that was taken out):
 * to the list of the nearest part around it, else to that part itself. Without this it falls to the page's body, where
 * keys lead nowhere and a screen reader begins anew.
 */
export function useKeepFocus(): void {
  useEffect(() => {
    let last: Element | null = null;
    let around: Element[] = [];
    const note = (event: FocusEvent): void => {
      if (!(event.target instanceof Element)) return;
      last = event.target;
      around = [];
      for (let place = last.closest(PLACES); place; place = place.parentElement?.closest(PLACES) ?? null)
        around.push(place);
    };
    const look = (): void => {
      if (!last || last.isConnected || (document.activeElement ?? document.body) !== document.body) return;
      const place = around.find((one) => one.isConnected) ?? document.querySelector('main');
      last = null;
      const list = place?.querySelector<HTMLElement>('[data-list]');
      const heir = list ?? (place as HTMLElement | null);
      if (!heir) return;
      if (!list && !heir.hasAttribute('tabindex')) heir.setAttribute('tabindex', '-1');
      heir.focus({ preventScroll: true });
    };
    const watcher = new MutationObserver(look);
    watcher.observe(document.body, { childList: true, subtree: true });
    document.addEventListener('focusin', note);
    return () => {
      watcher.disconnect();
      document.removeEventListener('focusin', note);
    };
  }, []);
}
