import { z } from 'zod';
import { fieldsWith } from '@tallystick/core/catalogue';
import type { Ref } from '@tallystick/core/catalogue';
import { namedIn, renumbered } from '@tallystick/core/segments';
import type { Definition, NamedKind } from '@tallystick/core/segments';
import * as contract from '@tallystick/contract/segment-definition';
import type { SegmentDefinition } from '@tallystick/contract/segment-definition';
import type { Group, Segment, View } from '@tallystick/contract/segments';
import { CHOICES_OF } from '@tallystick/contract/setup';
import type { Questions } from '../facts/index.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import type { Settings } from '../settings/index.ts';
import type { Segments } from './segments.service.ts';
import { PLAIN_VIEW } from './tables.ts';

/** Names by kind and number, as they are known here. */
type Names = ReadonlyMap<string, ReadonlyMap<string, string>>;
const WORDS: Partial<Record<string, string>> = { field: 'custom field', list: 'list of people', role: 'kind of tie' };

/** Definitions of segments: written so that another database can read them, and read so. */
export class Definitions {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly questions: Questions,
    private readonly segments: Segments,
  ) {}

  async of(segment: Segment): Promise<SegmentDefinition> {
    const { name, note, folder, credit, conditions, view } = segment;
    const [known, names] = await Promise.all([this.fields(), this.names()]);
    const found = namedIn({ conditions, view } as Definition, known);
    return {
      ...{ is: 'segment', version: 1, name, note, folder, credit, conditions, view },
      names: found.map(({ kind, id }) => ({ kind, id, name: names.get(kind)?.get(id) ?? '' })),
    };
  }

  /** A definition as a segment of this database; what it names is the thing of that number and name, or else of that name. */
  async read(definition: SegmentDefinition) {
    const { name, note, folder, credit, conditions, view = PLAIN_VIEW } = definition;
    const [fields, names] = await Promise.all([this.fields(), this.names()]);
    const called = new Map(definition.names.map((one) => [`${one.kind} ${one.id}`, one.name]));
    const missing = new Set<string>();
    const read = renumbered({ conditions, view } as Definition, fields, (kind, id) => {
      const here = names.get(kind) ?? new Map<string, string>();
      const wanted = called.get(`${kind} ${id}`);
      if (wanted === undefined || here.get(id) === wanted) return id;
      const same = [...here].find(([, one]) => one.toLowerCase() === wanted.toLowerCase());
      if (same) return same[0];
      missing.add(`${WORDS[kind] ?? kind} ${wanted || id}`);
      return '0';
    });
    return {
      ...{ name, note, folder, credit, missing: [...missing] },
      ...{ conditions: read.conditions as Group, view: read.view as View },
    };
  }

  private async fields() {
    return fieldsWith(await this.questions.own());
  }

  /** Everything that can be named here. */
  private async names(): Promise<Names> {
    const [choices, own, segments, lists] = await Promise.all([
      this.settings.everyChoice(),
      this.questions.own(),
      this.segments.names(),
      this.sql.rows<{ id: number; name: string }>('SELECT id, name FROM people_list'),
    ]);
    const byId = (list: readonly object[]): ReadonlyMap<string, string> =>
      new Map(
        list.flatMap((one) => ('id' in one && 'name' in one ? [[String(one.id), String(one.name)] as const] : [])),
      );
    const refs = (Object.keys(CHOICES_OF) as Ref[]).map((kind) => [kind, byId(choices[CHOICES_OF[kind]])] as const);
    const others: [NamedKind, ReadonlyMap<string, string>][] = [
      ['field', byId(own)],
      ['segment', byId(segments)],
      ['list', byId(lists)],
      ['window', byId(choices.windows)],
    ];
    return new Map([...refs, ...others]);
  }

  serve(http: Http): void {
    http.on(contract.getDefinition, async ({ actor, params }) => this.of(await this.segments.get(actor, params.id)));
    http.on(contract.readDefinition, ({ body }) => this.read(body));
    http.on(contract.getDefinitionSchema, async () => SCHEMA);
  }
}

const SCHEMA = z.toJSONSchema(contract.SegmentDefinition, { io: 'input' }) as Record<string, unknown>;
