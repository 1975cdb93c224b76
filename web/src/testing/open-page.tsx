import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactElement, ReactNode } from 'react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { FilingContext, useFilingState } from '../shared/useFiling.ts';

export interface Sent {
  path: string;
  body: Record<string, unknown>;
}

function Around({ children }: { children: ReactNode }) {
  return <FilingContext.Provider value={useFilingState()}>{children}</FilingContext.Provider>;
}

/** What the server says: at once, after its time, or by what it was sent or asked. */
export type Answer = object | Promise<object> | BySent;
type BySent = (body: Record<string, unknown>, query: URLSearchParams) => object;

/** Where a page is: its address, and the pattern that takes it apart. */
interface Place {
  at: string;
  path: string;
}

/**
 * A piece of a page with everything that stands around it. `answers` are the server's, by method and path; one with `refused`
 * in it is a 409, a promise one that takes its time, a function one that depends on what is sent. What was posted is kept in `sent`.
 */
export function openPage(
  element: ReactElement,
  answers: Record<string, Answer> = {},
  { at, path }: Place = { at: '/', path: '*' },
) {
  const sent: Sent[] = [];
  jest.spyOn(globalThis, 'fetch').mockImplementation(async (input) => {
    const request = input as Request;
    const { pathname, searchParams } = new URL(request.url);
    const asked = await request.clone().text();
    const body = JSON.parse(asked || '{}') as Record<string, unknown>;
    if (request.method !== 'GET') sent.push({ path: pathname, body });
    const known: Answer | undefined = answers[`${request.method} ${pathname}`];
    const answer: object | undefined =
      typeof known === 'function' ? (known as BySent)(body, searchParams) : await known;
    const status = answer === undefined ? 404 : 'refused' in answer ? 409 : 200;
    return new Response(JSON.stringify(answer ?? { message: `no answer for ${pathname}` }), {
      status,
      headers: { 'content-type': 'application/json' },
    });
  });
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapped = (inner: ReactElement): ReactElement => (
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <Around>
          <Routes>
            <Route path={path} element={inner} />
            <Route path="*" element={null} />
          </Routes>
        </Around>
      </MemoryRouter>
    </QueryClientProvider>
  );
  const { rerender, unmount } = render(wrapped(element));
  return { sent, unmount, change: (next: ReactElement) => rerender(wrapped(next)) };
}
