import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { readPiece, writePiece } from '@anchorbeat/core';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { richPiece } from '../../../core/src/test/richPiece.ts';
import { PIECE_SCHEMA } from './schema.ts';

const docs = (name: string) =>
  readFileSync(fileURLToPath(new URL(`../../../../docs/${name}`, import.meta.url)), 'utf8');
const isPiece = new Ajv2020({ strict: false }).compile(PIECE_SCHEMA);

describe('the published schema', () => {
  test('is the one in docs/', () => {
    expect(JSON.parse(docs('piece-1.schema.json'))).toEqual(JSON.parse(JSON.stringify(PIECE_SCHEMA)));
  });

  test('describes everything the core writes', () => {
    for (let seed = 0; seed < 40; seed++) {
      const document: unknown = JSON.parse(JSON.stringify(writePiece(richPiece(seed, 30))));
      expect([isPiece(document), isPiece.errors]).toEqual([true, null]);
    }
  });

  test('refuses what the core refuses for its shape', () => {
    const head = { format: 'anchorbeat-piece', version: 1, title: 'T' };
    for (const bars of [
      [],
      [{ metre: '4/4' }],
      [{ meter: 4 }],
      [{ meter: '4/4', endsRepeat: 1 }],
      [{ meter: '4/4', holds: [{}] }],
    ]) {
      expect([isPiece({ ...head, bars }), readPiece({ ...head, bars }).ok]).toEqual([false, false]);
    }
  });

  test('the worked example in docs/ is a piece, by the schema and by the core', () => {
    const example = /```json\n([\s\S]*?)```/.exec(docs('piece-format.md'))?.[1] ?? '';
    const document: unknown = JSON.parse(example);
    expect([isPiece(document), isPiece.errors]).toEqual([true, null]);
    expect(readPiece(document).ok).toBe(true);
  });
});
