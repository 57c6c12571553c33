import { useEffect } from 'react';

/** Names the page in the browser's tab and to who hears it: `Supporters · Tallystick`; nothing while it is not known. */
export function useTitle(name: string | undefined): void {
  useEffect(() => {
    if (name === undefined) return;
    document.title = `${name} · Tallystick`;
    return () => {
      document.title = 'Tallystick';
    };
  }, [name]);
}
