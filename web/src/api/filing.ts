import { answered, server, type Schemas } from './client.ts';

export type Filed = Schemas['FiledDto'];
export type EntryDraft = Schemas['EntryDto'];

/** A key of its own for each thing filed: sent twice, it is filed once. */
export const newKey = (): string => crypto.randomUUID();

export const fileLine = (line: string, by: string, key: string): Promise<Filed> =>
  answered(server.POST('/api/log/line', { body: { key, by, line } }));

/** What filing a line now would give, without filing it. */
export const previewLine = (line: string, by: string, signal: AbortSignal): Promise<Filed> =>
  answered(server.POST('/api/log/line/preview', { body: { by, line }, signal }));

export const fileEntries = (batch: string, by: string, entries: EntryDraft[]): Promise<Filed> =>
  answered(server.POST('/api/log', { body: { key: newKey(), by, batch, entries } }));

export const openBatch = (by: string, batch: Omit<Schemas['OpenBatchDto'], 'key' | 'by'>): Promise<Filed> =>
  answered(server.POST('/api/batches', { body: { key: newKey(), by, ...batch } }));

export const fileReadings = (
  code: string,
  by: string,
  sheet: string,
  goodRowsOnly: boolean,
): Promise<Schemas['ReadingsFiledDto']> =>
  answered(
    server.POST('/api/batches/{code}/readings', {
      params: { path: { code } },
      body: { key: newKey(), by, sheet, goodRowsOnly },
    }),
  );
