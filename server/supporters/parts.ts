import type { Supporter } from '@tallystick/contract/supporters';

/** Whose record is read: their number, those whose giving its stick shows (a household's people too), and the day. */
export interface RecordOf {
  id: number;
  household: readonly number[];
  today: string;
}

/** What an area knows of a supporter that stands on the record. */
export type PartOfRecord = Partial<Pick<Supporter, 'timeline'> & Pick<Supporter['pending'], 'overdue' | 'failing'>>;
export type ReadPart = (of: RecordOf) => Promise<PartOfRecord>;

/** The parts of a record that other areas add; a record is read with all of them at once. */
export class RecordParts {
  private readonly parts: ReadPart[] = [];

  add(read: ReadPart): void {
    this.parts.push(read);
  }

  async read(of: RecordOf): Promise<Required<PartOfRecord>> {
    const read = await Promise.all(this.parts.map((part) => part(of)));
    return {
      timeline: read.flatMap((part) => part.timeline ?? []),
      overdue: read.flatMap((part) => part.overdue ?? []),
      failing: read.flatMap((part) => part.failing ?? []),
    };
  }
}
