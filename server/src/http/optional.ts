import { ValidateIf } from 'class-validator';

/**
 * May be left out. Unlike class-validator's IsOptional it does not let null pass: where null means something, the document
 * says `nullable`.
 */
export const Optional = (): PropertyDecorator =>
  ValidateIf((_request, value: unknown) => value !== undefined);
