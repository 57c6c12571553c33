import { queries } from '../ui/api.ts';
import { unsavedHere } from '../ui/form/unsaved.ts';

/** Nothing of what one person had on the screen or was typing stays for another. */
export function leaveAll(): void {
  sessionStorage.clear();
  queries.clear();
  unsavedHere.drop();
  location.assign('/');
}
