import type { LetterNode } from '@tallystick/core/letters';

const text = (words: string): LetterNode => ({ type: 'text', text: words });
const field = (name: string, fallback = ''): LetterNode => ({ type: 'mergeField', attrs: { field: name, fallback } });
const paragraph = (...content: LetterNode[]): LetterNode => ({ type: 'paragraph', content });
const doc = (...content: LetterNode[]): LetterNode => ({ type: 'doc', content });

export const THANKS_LETTER = {
  name: 'Thank you with receipt',
  subject: 'Thank you for your gift to {organization}',
  body: doc(
    paragraph(text('Dear '), field('salutation', 'friend'), text(',')),
    paragraph(
      text('Thank you for your gift of '),
      field('giftAmount'),
      text(' on '),
      field('giftDate'),
      text(' to '),
      field('fund'),
      text('. Because of you the basin stays dark enough to read by starlight.'),
    ),
    paragraph(
      text(
        'This year the telescope van has stopped at thirty-one schools, and every one of those evenings was paid for by people like you.',
      ),
    ),
    paragraph(text('With clear skies,')),
    paragraph(text('The Conservancy at Tansy Creek')),
  ),
};

/** The letter that a new organization begins with: it says nothing that is not true of any. */
export const FIRST_LETTER = {
  name: 'Thank you with receipt',
  subject: 'Thank you for your gift to {organization}',
  body: doc(
    paragraph(text('Dear '), field('salutation', 'friend'), text(',')),
    paragraph(
      text('Thank you for your gift of '),
      field('giftAmount'),
      text(' on '),
      field('giftDate'),
      text(' to '),
      field('fund'),
      text('. It means a great deal to everyone at '),
      field('organization'),
      text('.'),
    ),
    paragraph(text('With thanks,')),
    paragraph(field('signature'), text(' ')),
  ),
};

export const SHORT_LETTER = {
  name: 'Short thanks, repeat donor',
  subject: 'Your gift arrived: thank you',
  body: doc(
    paragraph(text('Dear '), field('salutation', 'friend'), text(',')),
    paragraph(
      text('Your '),
      field('giftAmount'),
      text(' for '),
      field('fund'),
      text(' arrived on '),
      field('giftDate'),
      text('. You have now given '),
      field('lifetimeTotal'),
      text(' to the night sky, and it shows.'),
    ),
    paragraph(text('Thank you, again.')),
  ),
};

export const YEAR_END_MAIL = {
  name: 'Year-end e-mail, first of three',
  subject: 'The lamps are going out, {first|friend}',
  body: doc(
    paragraph(text('Dear '), field('salutation', 'friend'), text(',')),
    paragraph(
      text(
        'Eleven streets in Tansy Creek now shine down instead of up. From the Lantern Dome the Milky Way has an edge again.',
      ),
    ),
    paragraph(
      text('Your last gift came on '),
      field('lastGiftDate', 'a night we remember'),
      text('. Would you help us swap the next forty lamps before the year ends?'),
    ),
    paragraph(text('With thanks from everyone at '), field('organization'), text('.')),
  ),
};

export const VAN_MAIL = {
  name: 'The van is back on the road',
  subject: 'The telescope van is rolling again',
  body: doc(
    paragraph(text('Dear '), field('salutation', 'friend'), text(',')),
    paragraph(
      text(
        'When the van broke down outside Basin Wells, you answered within a day. It has a new gearbox, and on Thursday it drives to its first school of the year.',
      ),
    ),
    paragraph(text('Thank you.')),
  ),
};
