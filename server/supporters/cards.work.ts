import { readCards } from '@tallystick/core/vcard';
import type { Card } from '@tallystick/core/vcard';

export const work = (text: string): Card[] => readCards(text);
