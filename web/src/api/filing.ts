import { v4 } from 'uuid';
import { answered, server, type Schemas } from './client.ts';

export type Filed = Schemas['FiledDto'];
export type EntryDraft = Schemas['FileEntriesDto']['entries'][number];

/** A key of its own for each thing filed: sent twice, it is filed once. Also over plain HTTP, where the browser makes none. */
export const newKey = (): string => v4();

export const fileLine = (line: string, by: string, key: string): Promise<Filed> =>
  answered(server.POST('/api/log/line', { body: { key, by, line } }));

/** What filing a line now would give, without filing it. */
export const previewLine = (line: string, by: string, signal: AbortSignal): Promise<Filed> =>
  answered(server.POST('/api/log/line/preview', { body: { by, line }, signal }));

export const fileEntries = (batch: string, by: string, key: string, entries: EntryDraft[]): Promise<Filed> =>
  answered(server.POST('/api/log', { body: { key, by, batch, entries } }));

/** Takes back the filing of a key; asked again, it is taken back once. */
export const takeBack = (filing: string, by: string): Promise<Filed> =>
  answered(server.POST('/api/log/take-back', { body: { key: `undo-${filing}`.slice(0, 80), by, filing } }));

export const openBatch = (
  by: string,
  key: string,
  batch: Omit<Schemas['OpenBatchDto'], 'key' | 'by'>,
): Promise<Filed> => answered(server.POST('/api/batches', { body: { key, by, ...batch } }));

export const fileReadings = (
  code: string,
  by: string,
  key: string,
  sheet: string,
  goodRowsOnly: boolean,
): Promise<Schemas['ReadingsFiledDto']> =>
  answered(
    server.POST('/api/batches/{code}/readings', {
      params: { path: { code } },
      body: { key, by, sheet, goodRowsOnly },
    }),
  );
