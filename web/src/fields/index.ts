/** What forms are made of: a draft, its form, and the fields it asks by name. */
export { AskChoice } from './AskChoice.tsx';
export { AskDay } from './AskDay.tsx';
export { AskFrom } from './AskFrom.tsx';
export { AskNumber } from './AskNumber.tsx';
export { AskSeveral } from './AskSeveral.tsx';
export { AskText } from './AskText.tsx';
export { AskTick } from './AskTick.tsx';
export { AskWords } from './AskWords.tsx';
export { AskYesNo } from './AskYesNo.tsx';
export { asOptions, Choice, type Option } from './Choice.tsx';
export { useDraft, type Draft } from './draft.ts';
export { isText, useKeptState } from './kept-state.ts';
export { Form, PlainForm } from './Form.tsx';
export { Leave } from './Leave.tsx';
export { unitSlots } from './unit-slots.tsx';
export { useTurned } from './useTurned.ts';
