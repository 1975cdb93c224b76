/** Why something was not accepted, beside where it was asked. */
export function Refused({ words }: { words: string | null }) {
  return words === null ? null : (
    <p role="alert" style={{ color: 'var(--oxblood)', marginTop: 6 }}>
      {words}
    </p>
  );
}
