import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { blankRow, isEmptyRow, withFound } from '@tallystick/core/sheets';
import type { SheetField, SheetLayout, SheetRow } from '@tallystick/core/sheets';
import { listFields } from '@tallystick/contract/fields';
import { checkSheet, getSheet, sheetPeople, typeRows } from '@tallystick/contract/sheets';
import type { Sheet } from '@tallystick/contract/sheets';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call, isAway, messageOf } from '../ui/api.ts';

export type Checked = ResponseOf<typeof checkSheet>;
/** What a check says of a row, and the row as it was when it was checked. */
export type RowRemarks = Checked['rows'][number] & { of: SheetRow };
/** What was typed as a name, in which column. */
export interface TypedName {
  field: SheetField;
  text: string;
}
export type Person = Sheet['people'][number];
const SAVE_MS = 350;
/** Larger sheets are checked when asked, since each check reads every row. */
const CHECKED_BY_ITSELF = 600;

export const newKey = (): string => crypto.randomUUID();
const mirrorOf = (id: number): string => `tallystick.sheet.${id}`;
type Kept = SheetRow & { place: number };

/** Rows that were typed and that the server may not have: kept on this machine until it says that it has them. */
function mirrored(id: number): Kept[] {
  const text = localStorage.getItem(mirrorOf(id));
  if (text === null) return [];
  const rows: Kept[] = JSON.parse(text);
  return rows;
}

const rowOf = ({ key, supporterId, cells, change }: SheetRow): SheetRow => ({ key, supporterId, cells, change });

/** The rows of a sheet while it is being typed: kept as they are typed, here and on the server, and checked. */
export function useSheet(sheet: Sheet) {
  const { id } = sheet;
  const [rows, setRows] = useState<readonly SheetRow[]>(() => {
    const found = new Map<string, SheetRow>(sheet.lines.map((line) => [line.key, line as SheetRow]));
    for (const kept of mirrored(id)) found.set(kept.key, rowOf(kept));
    return [...found.values()];
  });
  const [people, setPeople] = useState(() => new Map(sheet.people.map((person) => [person.id, person])));
  const [checked, setChecked] = useState<Checked | null>(null);
  const [remarks, setRemarks] = useState<ReadonlyMap<string, RowRemarks>>(new Map());
  const [checking, setChecking] = useState(false);
  const [kept, setKept] = useState<'kept' | 'keeping' | 'away'>('kept');
  const dirty = useRef(new Set<string>(mirrored(id).map((row) => row.key)));
  const latest = useRef(rows);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  /** Keys that are on their way; the mirror holds them until the server has them. */
  const underWay = useRef(new Set<string>());
  const sending = useRef<Promise<void> | null>(null);
  const asked = useRef(0);
  const fields = useQuery(ask(listFields));
  const own = useMemo(
    () => (fields.data?.items ?? []).filter((field) => field.about === 'supporter').map((field) => field.id),
    [fields.data],
  );

  const check = useCallback(async () => {
    const turn = ++asked.current;
    setChecking(true);
    const asSent = new Map(latest.current.map((row) => [row.key, row]));
    for (const key of dirty.current) asSent.delete(key);
    try {
      const answer = await call(checkSheet, { params: { id } });
      if (turn === asked.current) {
        setChecked(answer);
        setRemarks(
          new Map(
            answer.rows.flatMap((one) => {
              const of = asSent.get(one.key);
              return of ? [[one.key, { ...one, of }] as const] : [];
            }),
          ),
        );
      }
      return answer;
    } finally {
      if (turn === asked.current) setChecking(false);
    }
  }, [id]);

  /** Sends once what is not kept yet; false where the server did not take it. */
  const send = useCallback(async (): Promise<boolean> => {
    const keys = [...dirty.current];
    const unkept = latest.current.flatMap((row, place): Kept[] =>
      dirty.current.has(row.key) ? [{ ...rowOf(row), place }] : [],
    );
    dirty.current.clear();
    underWay.current = new Set(keys);
    try {
      await call(typeRows, { params: { id }, body: { rows: unkept as never, removed: [] }, quiet: true });
      if (dirty.current.size === 0) {
        localStorage.removeItem(mirrorOf(id));
        setKept('kept');
      }
      if (latest.current.length <= CHECKED_BY_ITSELF) void check().catch(() => undefined);
      return true;
    } catch (error) {
      for (const key of underWay.current) dirty.current.add(key);
      setKept('away');
      if (!isAway(error)) console.warn(messageOf(error));
      return false;
    } finally {
      underWay.current = new Set();
    }
  }, [id, check]);

  /** Resolves once everything typed so far is kept, or the server is away; then it is tried again by itself. */
  const flush = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    if (sending.current === null && dirty.current.size === 0) return;
    // Whoever waits for the rows to be kept waits for those on their way, too.
    sending.current ??= (async () => {
      let taken = true;
      while (taken && dirty.current.size > 0) taken = await send();
      sending.current = null;
      if (!taken) timer.current = setTimeout(() => void again.current(), 3000);
    })();
    await sending.current;
  }, [send]);
  const again = useRef(flush);
  useEffect(() => {
    again.current = flush;
  }, [flush]);

  const change = useCallback(
    (work: (old: readonly SheetRow[]) => readonly SheetRow[]) => {
      const old = latest.current;
      const next = work(old);
      const before = new Map(old.map((row) => [row.key, row]));
      for (const row of next) if (before.get(row.key) !== row) dirty.current.add(row.key);
      latest.current = next;
      setRows(next);
      const waiting = next.flatMap((row, place) =>
        dirty.current.has(row.key) || underWay.current.has(row.key) ? [{ ...row, place }] : [],
      );
      try {
        localStorage.setItem(mirrorOf(id), JSON.stringify(waiting));
      } catch {
        // No room on this machine: the server keeps the rows all the same.
      }
      setKept('keeping');
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void flush(), SAVE_MS);
    },
    [id, flush],
  );

  const lookups = useRef(new Set<Promise<void>>());
  /** Puts whom a typed name turns out to mean in its row; where the server is away it stays as it was typed. */
  const lookup = useCallback(
    (key: string, name: TypedName, found: Promise<number | null>): void => {
      const task = found
        .then((person) => {
          if (person === null) return;
          change((old) => old.map((one) => (one.key === key ? withFound(one, person, name, own) : one)));
        })
        .catch(() => undefined)
        .finally(() => lookups.current.delete(task));
      lookups.current.add(task);
    },
    [change, own],
  );
  /** Resolves once every name typed so far is looked up and everything is kept. */
  const settle = useCallback(async (): Promise<void> => {
    await Promise.all(lookups.current);
    await flush();
  }, [flush]);

  const open = sheet.state === 'open';
  useEffect(() => {
    if (!open) return;
    if (dirty.current.size > 0) void flush();
    else void check().catch(() => undefined);
    return () => void flush();
  }, [open, flush, check]);

  /** Has what a sheet shows of someone read, once. */
  const know = useCallback(async (ids: readonly number[]) => {
    const missing = ids.slice(0, 200);
    if (missing.length === 0) return;
    const answer = await call(sheetPeople, { query: { ids: missing.join(',') } });
    setPeople((old) => new Map([...old, ...answer.people.map((person) => [person.id, person] as const)]));
  }, []);
  const unknown = useMemo(
    () => [...new Set(rows.flatMap((row) => row.supporterId ?? []))].filter((one) => !people.has(one)),
    [rows, people],
  );
  const asking = unknown.join(',');
  useEffect(() => {
    if (asking !== '') void know(asking.split(',').map(Number)).catch(() => undefined);
  }, [asking, know]);

  /** Rows to type in: those that are there, and one empty at the end of an open sheet. */
  const [spare, setSpare] = useState(() => blankRow(newKey()));
  if (rows.some((row) => row.key === spare.key)) setSpare(blankRow(newKey()));
  const last = rows.at(-1);
  const shown = open && (!last || !isEmptyRow(last)) ? [...rows, spare] : rows;
  return { rows: shown, people, own, checked, remarks, checking, kept, change, check, lookup, settle };
}

export const fieldsOf = (layout: SheetLayout): { name: SheetField; shown: SheetLayout['columns'] } => {
  const finder =
    layout.columns.find((one) => one.field === 'wholeName') ??
    layout.columns.find((one) => one.field === 'organization');
  const others = layout.columns.filter((one) => one !== finder && !one.hidden);
  return { name: finder?.field ?? 'wholeName', shown: finder ? [finder, ...others] : others };
};

export const sheetQuery = (id: number) => ask(getSheet, { params: { id } });
