import { useSearchParams } from 'react-router';

/** What is asked of a page stands in its address: it can be sent to somebody, and is there again after a reload. */
export interface InAddress {
  /** What is asked by a name; '' when nothing is. */
  asked: (name: string) => string;
  /** Asks; '' asks no more. */
  ask: (name: string, value: string) => void;
  /** Asks no more by any of these names. */
  forget: (names: readonly string[]) => void;
}

export function useInAddress(): InAddress {
  const [address, setAddress] = useSearchParams();
  const change = (names: readonly string[], value: string): void =>
    setAddress(
      (before) => {
        const next = new URLSearchParams(before);
        for (const name of names) {
          if (value === '') next.delete(name);
          else next.set(name, value);
        }
        return next;
      },
      { replace: true },
    );
  return {
    asked: (name) => address.get(name) ?? '',
    ask: (name, value) => change([name], value),
    forget: (names) => change(names, ''),
  };
}
