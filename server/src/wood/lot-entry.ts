import { LOT_FORMS } from '@ample-crane/core';
import { AskedForms } from '../http/asked-forms.ts';

const FORMS = new AskedForms(LOT_FORMS);

/** One entry on a lot, as its kind is asked for. */
export const IsLotEntry = (): PropertyDecorator => FORMS.field('entry');
