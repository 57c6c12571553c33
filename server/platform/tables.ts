import { EntitySchema } from 'typeorm';
import type { EntitySchemaColumnOptions } from 'typeorm';

/** How a table takes part in change sets. */
export interface TableRule {
  /** The column that names the supporter whose history and facts a row belongs to. */
  supporter?: 'id' | 'supporter_id';
  /** A column that names a second supporter, in whose history and facts the row appears as well. */
  also?: string;
  /** As `also`, but only a change of that column itself is the other's business. */
  alsoWhenChanged?: string;
  /** True where a row is part of the supporter's record, so that changing it makes an open edit of the record stale. */
  partOfRecord?: boolean;
  /** True where later rows come to lie in a row: an undo of what began it leaves it there while it is used or changed. */
  holdsOthers?: boolean;
}

const rules = new Map<string, TableRule>();
const schemas: EntitySchema[] = [];

/** Declares a table whose rows are written through change sets, with its columns for the object mapper. */
export function table<T extends { id: number; version: number }>(
  name: string,
  rule: TableRule,
  columns: { [K in Exclude<keyof T, 'id' | 'version'>]: EntitySchemaColumnOptions },
): EntitySchema<T> {
  rules.set(name, rule);
  const all: Record<string, EntitySchemaColumnOptions> = {
    id: { type: 'int', unsigned: true, primary: true, generated: true },
    version: { type: 'int', unsigned: true },
    ...columns,
  };
  const schema = new EntitySchema<T>({ name, tableName: name, columns: all as never });
  schemas.push(schema as unknown as EntitySchema);
  return schema;
}

export const text = (length: number): EntitySchemaColumnOptions => ({ type: 'varchar', length });
export const long: EntitySchemaColumnOptions = { type: 'mediumtext' };
export const flag: EntitySchemaColumnOptions = { type: 'tinyint' };
export const whole: EntitySchemaColumnOptions = { type: 'int' };
export const cents: EntitySchemaColumnOptions = { type: 'bigint' };
export const day: EntitySchemaColumnOptions = { type: 'date' };
export const stamp: EntitySchemaColumnOptions = { type: 'datetime', precision: 3 };
export const ref: EntitySchemaColumnOptions = { type: 'int', unsigned: true };
export const maybe = (column: EntitySchemaColumnOptions): EntitySchemaColumnOptions => ({ ...column, nullable: true });

export const declaredTables = (): EntitySchema[] => schemas;

/** The rule of a table; throws for one that was never declared, so that no name reaches SQL unchecked. */
export function ruleOf(name: string): TableRule {
  const rule = rules.get(name);
  if (!rule) throw new Error(`The table ${name} takes no part in change sets.`);
  return rule;
}
