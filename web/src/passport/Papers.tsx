import { Button } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { Refused } from '../parts/index.ts';
import { usePerform } from '../shared/usePerform.ts';

/** The passport as paper and as a file, and the page that its owner may see. */
export function Papers({ batch, position }: { batch: string; position: number }) {
  const { perform, busy, refused } = usePerform();
  const [token, setToken] = useState<string | null>(null);
  const at = `/api/passports/${batch}/${position}`;
  const open = async (): Promise<void> => {
    const made = await perform((by, key) =>
      answered(
        server.POST('/api/passports/{batch}/{position}/owner', {
          ...{ params: { path: { batch, position } }, body: { by, key } },
        }),
      ),
    );
    if (made) setToken(made.token);
  };
  return (
    <>
      <Button className="noprint" component="a" href={`${at}/passport.pdf`} target="_blank" rel="noopener">
        PDF
      </Button>
      <Button
        className="noprint"
        component="a"
        href={`${at}/passport.json`}
        download={`${batch}-${position}.json`}
      >
        JSON
      </Button>
      {token === null ? (
        <Button className="noprint" disabled={busy} onClick={() => void open()}>
          Page for its owner
        </Button>
      ) : (
        <Button className="noprint" component="a" href={`/own/${token}`} target="_blank" rel="noopener">
          Open its owner’s page
        </Button>
      )}
      <Refused words={refused} />
    </>
  );
}
