import { ValidateIf } from 'class-validator';

/** The field may be null, and is only looked at further where it is not. */
export const OrNull = () => ValidateIf((_request, value) => value !== null);
