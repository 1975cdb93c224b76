import { NEW_PART, PART_FORMS } from '@ample-crane/core';
import { AskedForms } from '../http/asked-forms.ts';

const FORMS = new AskedForms(PART_FORMS);
const NEW = new AskedForms([NEW_PART]);

/** One entry on a part, as its kind is asked for. */
export const IsPartEntry = (): PropertyDecorator => FORMS.field('entry');

/** What is known of a part that is to be kept. */
export const IsNewPart = (): PropertyDecorator => NEW.field('part');
