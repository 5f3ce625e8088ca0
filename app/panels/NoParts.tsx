import { useImport } from '@/files/ImportProvider';
import { Button } from '@/ui';

/** Stands where a place has no part to work on: why, and what brings one in. */
export function NoParts({ children }: { children: string }) {
  const { pickFiles } = useImport();
  return (
    <main className="flex grow flex-col items-center justify-center gap-3">
      <p>{children}</p>
      <Button look="main" onClick={pickFiles}>
        Import files
      </Button>
    </main>
  );
}
