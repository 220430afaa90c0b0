import { readPiece, type Problem } from '@anchorbeat/core';
import { registerDecorator } from 'class-validator';

/** The value is a piece document that the core reads; unknown fields are refused. */
export function IsPiece(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isPiece',
      target: target.constructor,
      propertyName: String(propertyName),
      validator: {
        validate: (value: unknown) => readPiece(value).ok,
        defaultMessage: () => 'This is not a piece that can be saved',
      },
    });
  };
}

/** Everything wrong with a piece document, fields counted from `prefix`. */
export function pieceProblems(value: unknown, prefix: string): readonly Problem[] {
  const reading = readPiece(value);
  if (reading.ok) return [];
  return reading.problems.map((problem) => ({ ...problem, field: `${prefix}.${problem.field ?? ''}` }));
}
