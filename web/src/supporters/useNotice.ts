import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { noticeDraft } from '@tallystick/contract/acts';
import type { BodyInputOf, ResponseOf } from '@tallystick/contract/endpoint';
import { ask } from '../ui/api.ts';
import type { Draft, DraftForm } from './draft.ts';

export type Noticed = ResponseOf<typeof noticeDraft>;
const PAUSE_MS = 250;

function askedOf(draft: Draft, id: number | null): BodyInputOf<typeof noticeDraft> {
  const {
    kind,
    first = '',
    last = '',
    nickname = '',
    organization = '',
    emails = [],
    phones = [],
    addresses = [],
  } = draft;
  return {
    ...{ id, kind, first, last, nickname, organization },
    emails: emails.map((way) => way.address),
    phones: phones.map((way) => way.number),
    addresses: addresses.map(({ street = '', city = '', region = '', postal = '', country = '' }) => ({
      ...{ street, city, region, postal, country },
    })),
  };
}

/** What the server notices about the form, a moment after typing stops. */
export function useNotice(form: DraftForm, id: number | null): Noticed | undefined {
  const [asked, setAsked] = useState(() => askedOf(form.getValues(), id));
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    const look = (): void => {
      clearTimeout(waiting);
      waiting = setTimeout(() => setAsked(askedOf(form.getValues(), id)), PAUSE_MS);
    };
    const watched = form.watch(look);
    return () => {
      clearTimeout(waiting);
      watched.unsubscribe();
    };
  }, [form, id]);
  const { data } = useQuery({
    ...ask(noticeDraft, { body: asked }),
    placeholderData: keepPreviousData,
    // It is a help, not an answer that anyone waits for.
    retry: false,
  });
  return data;
}
