import { useMutation } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { toast } from 'sonner';
import { changeIntake } from '@tallystick/contract/intake';
import type { Intake, IntakeSetting } from '@tallystick/contract/intake';
import { call, messageOf } from '../ui/api.ts';

/** Changes how an intake is read; `recipeId` is the recipe that the change comes from, where it does. */
export type SetSetting = (change: Partial<IntakeSetting>, recipeId?: number) => void;

/**
 * How an intake is read, and how to change that: what is chosen shows at once and is saved in order, one change after
 * the other, so that nobody waits for the one before.
 */
export function useSetting(intake: Intake): [IntakeSetting, SetSetting] {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  /** What was sent last, over which version. */
  const sent = useRef<{ wanted: Wanted; over: number } | null>(null);
  const { mutate, isPending } = useMutation({
    mutationFn: (change: Wanted) =>
      call(changeIntake, { params: { id: intake.id }, body: { version: intake.version, ...change } }),
    onSuccess: ({ revision }) => {
      if (revision === null) forget();
    },
    onError: (error) => {
      forget();
      toast.error(messageOf(error));
    },
  });
  const forget = (): void => {
    sent.current = null;
    setWanted(null);
  };
  const next = useEffectEvent((): void => {
    const { current } = sent;
    if (!wanted || isPending || current?.over === intake.version) return;
    // The version after the one that was saved over is here, and what is wanted with it.
    if (current?.wanted === wanted) return forget();
    sent.current = { wanted, over: intake.version };
    mutate(wanted);
  });
  useEffect(() => next(), [wanted, isPending, intake.version]);
  const setting = wanted?.setting ?? intake.setting;
  return [
    setting,
    (change, recipeId) =>
      setWanted({ setting: { ...setting, ...change }, ...(recipeId === undefined ? {} : { recipeId }) }),
  ];
}

interface Wanted {
  setting: IntakeSetting;
  recipeId?: number;
}
