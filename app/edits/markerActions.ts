import { inOrderOfTime, type Marker } from '@ordle/core';
import { edit } from '@/state/sessionSlice';
import type { AppDispatch } from '@/state/store';

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

/** Puts a marker at a tick, and gives its id; where one stands already, that one's. */
export function addMarker(dispatch: AppDispatch, markers: readonly Marker[], tick: number): string {
  const there = markers.find((marker) => marker.tick === tick);
  if (there) return there.id;
  const marker = { id: crypto.randomUUID(), tick: Math.max(0, Math.round(tick)), name: freeName(markers) };
  setMarkers(dispatch, 'New marker', [...markers, marker]);
  return marker.id;
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
