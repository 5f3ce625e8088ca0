import { inOrderOfTime, type Marker } from '@ordle/core';
import { toast } from 'sonner';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';
import { createSmallStore } from '@/ui/smallStore';

function setMarkers(dispatch: AppDispatch, label: string, markers: readonly Marker[]) {
  dispatch(
    edit(label, (draft) => void (draft.markers = inOrderOfTime(markers).map((each) => ({ ...each })))),
  );
}

/** A name nobody has yet. */
function freeName(markers: readonly Marker[]): string {
  let number = markers.length + 1;
  while (markers.some(({ name }) => name === `Section ${number}`)) number++;
  return `Section ${number}`;
}

/** A marker that is about to be put somewhere: its name is asked for first. */
export interface NewMarker {
  tick: number;
  name: string;
  /** Those that are there. */
  others: readonly Marker[];
}

export const newMarker = createSmallStore<NewMarker | null>(null);

/** Asks for the name of a marker at a tick, and proposes one; says so where one stands there already. */
export function askForMarker(markers: readonly Marker[], tick: number): void {
  const place = Math.max(0, Math.round(tick));
  const there = markers.find((marker) => marker.tick === place);
  if (there) toast(`The marker ${there.name} stands there already.`);
  else newMarker.set({ tick: place, name: freeName(markers), others: markers });
}

/** Puts a marker where it was asked for. */
export function addMarker(dispatch: AppDispatch, { tick, name, others }: NewMarker): void {
  const cleaned = name.trim().slice(0, 200) || freeName(others);
  const marker = { id: crypto.randomUUID(), tick, name: cleaned };
  setMarkers(dispatch, `New marker ${cleaned}`, [...others, marker]);
}

const changed = (markers: readonly Marker[], id: string, change: Partial<Marker>) =>
  markers.map((marker) => (marker.id === id ? { ...marker, ...change } : marker));

const nameOf = (markers: readonly Marker[], id: string) =>
  markers.find((marker) => marker.id === id)?.name ?? 'marker';

export function moveMarker(dispatch: AppDispatch, markers: readonly Marker[], id: string, tick: number) {
  setMarkers(
    dispatch,
    `Move marker ${nameOf(markers, id)}`,
    changed(markers, id, { tick: Math.max(0, tick) }),
  );
}

export function renameMarker(dispatch: AppDispatch, markers: readonly Marker[], id: string, name: string) {
  const cleaned = name.trim().slice(0, 200);
  if (cleaned === '' || cleaned === nameOf(markers, id)) return;
  setMarkers(
    dispatch,
    `Rename ${nameOf(markers, id)} to ${cleaned}`,
    changed(markers, id, { name: cleaned }),
  );
}

export function deleteMarker(dispatch: AppDispatch, markers: readonly Marker[], id: string) {
  setMarkers(
    dispatch,
    `Delete marker ${nameOf(markers, id)}`,
    markers.filter((marker) => marker.id !== id),
  );
}
