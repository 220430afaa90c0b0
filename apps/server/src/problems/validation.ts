import { ValidationPipe } from '@nestjs/common';
import { pieceProblems, type FieldProblem } from '@anchorbeat/contract';
import type { ValidationError } from 'class-validator';
import { invalid } from './problemException.ts';

/** Validates every body with class-validator: unknown fields are refused, everything wrong is named. */
export function validationPipe(): ValidationPipe {
  return new ValidationPipe({
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
    exceptionFactory: (errors) => invalid(errors.flatMap((error) => fieldProblems(error, ''))),
  });
}

function fieldProblems(error: ValidationError, path: string): FieldProblem[] {
  const field = path ? `${path}.${error.property}` : error.property;
  const constraints = error.constraints ?? {};
  if ('isPiece' in constraints) return [...pieceProblems(error.value, field)];
  const own = Object.entries(constraints).map(([rule, message]) => ({
    message:
      rule === 'whitelistValidation' ? `"${field}" is not a field of this request: leave it out` : message,
    field,
    value: shown(error.value),
  }));
  return [...own, ...(error.children ?? []).flatMap((child) => fieldProblems(child, field))];
}

function shown(value: unknown): string {
  const text = JSON.stringify(value) ?? 'nothing';
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
