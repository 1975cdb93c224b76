import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { IsString, Length, Matches } from 'class-validator';
import { Optional } from './optional.ts';

/** No control characters: these words are printed on tags. */
const PLAIN = /^[^\p{Cc}]*$/u;
/** Longest reason, cause or remark that is kept with an entry. */
const LONGEST_REASON = 200;

interface PlainTextOptions {
  least?: number;
  most?: number;
  optional?: boolean;
}

/** A line of words in a request: between `least` and `most` characters, none of them a control character. */
export function PlainText(options: PlainTextOptions = {}): PropertyDecorator {
  const { least = 1, most = LONGEST_REASON, optional = false } = options;
  return applyDecorators(
    ApiProperty({ minLength: least, maxLength: most, required: !optional }),
    ...(optional ? [Optional()] : []),
    IsString(),
    Length(least, most),
    Matches(PLAIN, { message: ({ property }) => `${property} must not hold control characters` }),
  );
}
