import type { Problem, Result } from '../problem/problem.ts';
import { MAX_TEXT_LENGTH } from '../piece/piece.ts';

export type Fields = Readonly<Record<string, unknown>>;

const MAX_PROBLEMS = 50;

/** Reads fields of unknown data and collects what is wrong with them, up to fifty problems. One reader, one document. */
export class FieldReader {
  readonly problems: Problem[] = [];

  get isFull(): boolean {
    return this.problems.length >= MAX_PROBLEMS;
  }

  refuse(field: string, value: unknown, message: string): void {
    if (!this.isFull) this.problems.push({ message, field, value: shown(value) });
  }

  /** The value as named fields; any name not `known` is refused. */
  fields(value: unknown, path: string, known: readonly string[]): Fields | null {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) {
      this.refuse(path || 'piece', value, 'Here a group of named fields is expected');
      return null;
    }
    for (const name of Object.keys(value)) {
      if (known.includes(name)) continue;
      const list = known.join(', ');
      this.refuse(
        within(path, name),
        (value as Fields)[name],
        `"${name.slice(0, 40)}" is not a field of a piece; known here: ${list}`,
      );
    }
    return value as Fields;
  }

  /** A short text, or undefined where there is none or it is no text. */
  text(fields: Fields, name: string, path: string): string | undefined {
    const value = fields[name];
    if (value === undefined) return undefined;
    if (typeof value === 'string' && value.length <= MAX_TEXT_LENGTH) return value;
    this.refuse(
      within(path, name),
      value,
      `"${name}" must be a text of at most ${MAX_TEXT_LENGTH} characters`,
    );
    return undefined;
  }

  /** A field that is either there as `true` or not there. */
  flag(fields: Fields, name: string, path: string): true | undefined {
    const value = fields[name];
    if (value === true || value === undefined) return value;
    this.refuse(within(path, name), value, `"${name}" is either true or left out`);
    return undefined;
  }

  /** A field whose text a parser understands; undefined where there is none or it is refused. */
  parsedField<T>(
    fields: Fields,
    name: string,
    path: string,
    parse: (text: string) => Result<T>,
    maxLength = MAX_TEXT_LENGTH,
  ): T | undefined {
    const value = fields[name];
    const field = within(path, name);
    if (value === undefined) return undefined;
    if (typeof value !== 'string' || value.length > maxLength) {
      this.refuse(field, value, 'Here a short text is expected');
      return undefined;
    }
    const result = parse(value);
    if (result.ok) return result.value;
    this.refuse(field, value, result.problem.message);
    return undefined;
  }

  /** A list, read item by item until there are too many problems; what an item's reader refuses is left out. */
  list<T>(
    value: unknown,
    path: string,
    message: string,
    read: (item: unknown, path: string, before: readonly T[]) => T | null,
  ): T[] {
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      this.refuse(path, value, message);
      return [];
    }
    const items: T[] = [];
    for (let index = 0; index < value.length && !this.isFull; index++) {
      const item = read(value[index], `${path}[${index}]`, items);
      if (item !== null) items.push(item);
    }
    return items;
  }
}

export function within(path: string, name: string): string {
  return path ? `${path}.${name}` : name;
}

function shown(value: unknown): string {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? 'nothing');
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
