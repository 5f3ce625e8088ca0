import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '@/ui';
import { Wordmark } from '@/ui/Wordmark';

/** Shown where a place that was not visited before has to be fetched, and the server is gone. */
export function NotFetched() {
  const navigate = useNavigate();
  const [tries, setTries] = useState(0);
  const tryAgain = async () => {
    // Loading the page anew without a server would end on the browser's own error page.
    const answers = await fetch('/health').then(
      ({ ok }) => ok,
      () => false,
    );
    if (answers) window.location.reload();
    else setTries((count) => count + 1);
  };
  return (
    <main className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center">
      <Wordmark />
      <p role="alert" className="max-w-md">
        This place could not be fetched: the server that Ordle came from does not answer
        {tries > 0 && ', still'}. Your work is safe in this browser. Start the server again, then try once
        more.
      </p>
      <div className="flex gap-2">
        <Button look="main" onClick={() => void tryAgain()}>
          Try again
        </Button>
        <Button onClick={() => void navigate(-1)}>Back to where you were</Button>
        <Button onClick={() => void navigate('/')}>Shelf</Button>
      </div>
    </main>
  );
}
