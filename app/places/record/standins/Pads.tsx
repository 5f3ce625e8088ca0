import { drumName } from '@ordle/core';
import { useEffect, useState } from 'react';
import { STAND_INS, arrive, letGoInputs } from '@/recording/inputs';

/** The pieces of a usual kit, by General MIDI. */
const PIECES = [36, 38, 37, 42, 44, 46, 41, 45, 48, 49, 51, 53, 39, 54, 56, 70];

/** Pads to strike with the mouse or with fingers; struck in the middle they are loud. */
export function Pads() {
  const [lit, setLit] = useState<number | null>(null);
  useEffect(() => () => letGoInputs(STAND_INS.pads.id), []);
  return (
    <div className="grid min-h-0 grow touch-none grid-cols-8 grid-rows-2 gap-1.5 select-none">
      {PIECES.map((piece) => (
        <button
          key={piece}
          type="button"
          // A click leaves the keys to the place.
          onMouseDown={(event) => event.preventDefault()}
          onPointerDown={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            const across = Math.abs((event.clientX - box.left) / box.width - 0.5);
            const along = Math.abs((event.clientY - box.top) / box.height - 0.5);
            const velocity = Math.round(122 - 150 * Math.max(across, along));
            arrive(STAND_INS.pads, [0x99, piece, Math.max(30, velocity)], event.timeStamp);
            setLit(piece);
          }}
          onPointerUp={() => {
            arrive(STAND_INS.pads, [0x89, piece, 64]);
            setLit(null);
          }}
          onPointerLeave={() => lit === piece && (arrive(STAND_INS.pads, [0x89, piece, 64]), setLit(null))}
          onKeyDown={({ key, repeat }) =>
            (key === 'Enter' || key === ' ') && !repeat && arrive(STAND_INS.pads, [0x99, piece, 96])
          }
          onKeyUp={({ key }) => (key === 'Enter' || key === ' ') && arrive(STAND_INS.pads, [0x89, piece, 64])}
          data-down={lit === piece}
          className="rounded-medium border border-edge bg-sheet px-1 text-quiet leading-tight hover:bg-well data-[down=true]:bg-set data-[down=true]:text-on-set"
        >
          {drumName(piece)}
        </button>
      ))}
    </div>
  );
}
