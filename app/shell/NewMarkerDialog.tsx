import { barAt, timelineOf } from '@ordle/core';
import { addMarker, newMarker } from '@/edits/markerActions';
import { selectDocument } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { Button, Dialog } from '@/ui';

/** Asks what a new marker is to be called. */
export function NewMarkerDialog() {
  const asked = newMarker.useValue();
  const session = useAppSelector(selectDocument);
  const dispatch = useAppDispatch();
  if (!asked || !session) return null;
  const close = () => newMarker.set(null);
  const bar = barAt(timelineOf(session).meter, asked.tick).number;
  return (
    <Dialog open title={`New marker at bar ${bar}`} onClose={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          addMarker(dispatch, asked);
          close();
        }}
      >
        <input
          aria-label="Name of the marker"
          autoFocus
          value={asked.name}
          onFocus={(event) => event.target.select()}
          onChange={(event) => newMarker.set({ ...asked, name: event.target.value })}
          className="w-full rounded-small border border-edge bg-sheet px-1.5 py-0.5"
        />
        <span className="flex justify-end gap-2">
          <Button onClick={close}>Cancel</Button>
          <Button look="main" type="submit">
            Put it there
          </Button>
        </span>
      </form>
    </Dialog>
  );
}
