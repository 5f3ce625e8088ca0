import { useSyncExternalStore } from 'react';
import { onOpeningFault, openingFault } from '@/storage/database';
import { Button } from '@/ui';
import { useWorkUnderWay } from '@/ui/underWay';
import { acceptNewVersion, putOffNewVersion, useNewVersion } from './newVersion';

/** Says that there is a newer version of the app, and lets a person take it when it suits. */
export function VersionBar() {
  const version = useNewVersion();
  const [work] = useWorkUnderWay();
  const fault = useSyncExternalStore(onOpeningFault, openingFault);
  const isOutdated = fault?.code === 'database-newer';
  if ((version === 'none' || version === 'later') && !isOutdated) return null;
  const isWaiting = version === 'accepted';
  return (
    <div
      role={isOutdated ? 'alert' : 'status'}
      className="flex min-h-9 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule bg-well px-3 py-1"
    >
      <span>{isOutdated ? fault.message : wordsFor(version, isWaiting ? work : undefined)}</span>
      {isOutdated ? (
        <Button onClick={() => window.location.reload()}>Reload this page</Button>
      ) : (
        !isWaiting && (
          <>
            <Button onClick={acceptNewVersion}>Reload with the newer version</Button>
            <Button look="quiet" onClick={putOffNewVersion}>
              Later
            </Button>
          </>
        )
      )}
    </div>
  );
}

function wordsFor(version: string, work: string | undefined): string {
  if (version === 'accepted')
    return work ? `The newer version comes when ${work} has ended.` : 'The newer version is coming ...';
  if (version === 'elsewhere')
    return 'A newer version of Ordle is in use in another tab. This one goes on with what it has until you reload it.';
  return 'A newer version of Ordle is here. Only this tab is reloaded; your work is stored first.';
}
