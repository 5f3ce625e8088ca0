import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { SNAPS } from '@ordle/core';
import { z } from 'zod';

/**
 * The part of time and pitch the editor shows: first tick, ticks a pixel, highest pitch (may be between keys), pixels
 * a key.
 */
export const windowSchema = z.object({
  tick: z.number(),
  ticksPerPixel: z.number().positive(),
  topPitch: z.number(),
  rowHeight: z.number().positive(),
});

export type EditorWindow = z.infer<typeof windowSchema>;

/** How wide the panels beside the music can be, in pixels. */
export const PANEL_WIDTHS = { parts: { least: 140, most: 320 }, settings: { least: 232, most: 420 } };

const panelSchema = (width: number) =>
  z.object({ width: z.number().default(width), folded: z.boolean().default(false) });

const cost = z.number().min(0).max(1000);
const proposalSchema = z.object({
  by: z.enum(['tightest', 'fullest', 'loudest', 'nearest']),
  penalty: cost,
  missing: cost,
  velocity: z.number().min(1).max(127),
});

export type ProposalSettings = z.infer<typeof proposalSchema>;

/** What a person is looking at in a session; kept beside it, lost without harm. */
const viewObject = z.object({
  partId: z.string().nullable(),
  /** Part id -> the current stop: 'played', 'cleaned', or a step's id. */
  stops: z.record(z.string(), z.string()),
  grid: z.string(),
  loop: z.object({ on: z.boolean(), from: z.number(), to: z.number() }),
  click: z.boolean(),
  blend: z.number(),
  follow: z.boolean(),
  middleC: z.union([z.literal(3), z.literal(4)]),
  tool: z.enum(['select', 'draw', 'erase']).default('select'),
  /** How what is dragged or pasted goes by the grid. */
  snap: z.enum(SNAPS).default('steps'),
  /** Whether controllers go along when notes are moved, copied or deleted by hand. */
  along: z.boolean().default(true),
  /** Parts shown together with the active one. */
  shown: z.array(z.string()).default([]),
  /** Parts selected together with the active one: what is set for one is set for all. */
  together: z.array(z.string()).default([]),
  show: z.enum(['both', 'cleaned', 'played']).default('both'),
  time: z.enum(['bars', 'seconds']).default('bars'),
  /** Whether the velocities stand under the notes, and how high, in pixels. */
  velocities: z.boolean().default(true),
  velocitiesHeight: z.number().min(48).max(320).default(92),
  list: z.boolean().default(false),
  /** The panels beside the music: how wide, in pixels, and whether folded away. */
  panels: z
    .object({ parts: panelSchema(176), settings: panelSchema(256) })
    .default({ parts: { width: 176, folded: false }, settings: { width: 256, folded: false } }),
  /** Lanes under the editor, from the top, with their heights in pixels. */
  lanes: z
    .array(z.object({ lane: z.string(), height: z.number(), folded: z.boolean().default(false) }))
    .default([]),
  /** Part id -> what was last looked for when takes were proposed for it, and what changes and gaps cost. */
  proposals: z.record(z.string(), proposalSchema).default({}),
  /** Part id -> pitches of it that are not heard here; what is written is all of it. */
  silent: z.record(z.string(), z.array(z.number())).default({}),
  /** Whether rows of drum pieces nobody plays, and octaves without a note, are hidden. */
  hidesPieces: z.boolean().default(true),
  hidesOctaves: z.boolean().default(false),
  /** Tuplet grid for the editor, where one is chosen; it stands in for `grid`. */
  tuplet: z.object({ count: z.number(), in: z.string() }).nullable().default(null),
});

export type View = z.infer<typeof viewObject>;
export type Panel = View['panels']['parts'];

/**
 * A stored view; those stored earlier had other names for how the velocities are shown, and knew snapping on or off.
 */
export const viewSchema = z.preprocess((stored) => {
  if (typeof stored !== 'object' || stored === null) return stored;
  const { lane, laneHeight, ...rest } = stored as Record<string, unknown>;
  const named = lane === undefined ? rest : { velocities: lane, velocitiesHeight: laneHeight, ...rest };
  return typeof rest.snap === 'boolean' ? { ...named, snap: rest.snap ? 'steps' : 'off' } : named;
}, viewObject);

export const initialView: View = {
  partId: null,
  stops: {},
  grid: '1/16',
  loop: { on: false, from: 0, to: 0 },
  click: false,
  blend: 1,
  follow: true,
  middleC: 4,
  tool: 'select',
  snap: 'steps',
  along: true,
  shown: [],
  together: [],
  show: 'both',
  time: 'bars',
  velocities: true,
  velocitiesHeight: 92,
  list: false,
  panels: { parts: { width: 176, folded: false }, settings: { width: 256, folded: false } },
  lanes: [],
  proposals: {},
  silent: {},
  hidesPieces: true,
  hidesOctaves: false,
  tuplet: null,
};

const toggled = (list: readonly string[], id: string): string[] =>
  list.includes(id) ? list.filter((other) => other !== id) : [...list, id];

export const viewSlice = createSlice({
  name: 'view',
  initialState: initialView,
  reducers: {
    viewRestored: (_, { payload }: PayloadAction<View>) => payload,
    viewChanged: (state, { payload }: PayloadAction<Partial<View>>) => ({ ...state, ...payload }),
    currentStopSet: (state, { payload }: PayloadAction<{ partId: string; stop: string }>) => {
      state.stops[payload.partId] = payload.stop;
    },
    /** Selects a part together with the active one, or no longer. */
    togetherToggled: (state, { payload: id }: PayloadAction<string>) => {
      if (id !== state.partId) state.together = toggled(state.together, id);
    },
    /** Mutes some pitches of a part, or lets them be heard again. */
    silenceToggled(
      state,
      { payload }: PayloadAction<{ partId: string; pitches: number[]; silent: boolean }>,
    ) {
      const others = (state.silent[payload.partId] ?? []).filter((pitch) => !payload.pitches.includes(pitch));
      state.silent[payload.partId] = payload.silent ? [...others, ...payload.pitches] : others;
    },
    /** Folds a panel beside the music, or gives it another width. */
    panelChanged: {
      reducer(state, { payload }: PayloadAction<{ panel: keyof View['panels']; change: Partial<Panel> }>) {
        Object.assign(state.panels[payload.panel], payload.change);
      },
      prepare: (panel: keyof View['panels'], change: Partial<Panel>) => ({ payload: { panel, change } }),
    },
    /** Shows a part with the active one, or no longer. */
    shownToggled: (state, { payload: id }: PayloadAction<string>) => {
      state.shown = toggled(state.shown, id);
    },
  },
});

export const {
  silenceToggled,
  togetherToggled,
  shownToggled,
  panelChanged,
  viewRestored,
  viewChanged,
  currentStopSet,
} = viewSlice.actions;

/** Part id -> the part of it the editor shows. Kept apart from the rest of the view: it changes with every scroll. */
export const windowsSchema = z.record(z.string(), windowSchema);

export type Windows = z.infer<typeof windowsSchema>;

export const windowsSlice = createSlice({
  name: 'windows',
  initialState: {} as Windows,
  reducers: {
    windowsRestored: (_, { payload }: PayloadAction<Windows>) => payload,
    windowMoved: (state, { payload }: PayloadAction<{ partId: string; window: EditorWindow }>) => {
      state[payload.partId] = payload.window;
    },
  },
});

export const { windowMoved, windowsRestored } = windowsSlice.actions;

/** The part of time, and of the rows, a place of rows along the bars shows; in the time the place measures in. */
const barsWindowSchema = z.object({
  tick: z.number(),
  ticksPerPixel: z.number().positive(),
  top: z.number(),
});

/** Place, and part where it shows one -> what it shows. Kept apart like the windows of the editor. */
export const barsWindowsSchema = z.record(z.string(), barsWindowSchema);

export type BarsWindows = z.infer<typeof barsWindowsSchema>;

export const barsWindowsSlice = createSlice({
  name: 'barsWindows',
  initialState: {} as BarsWindows,
  reducers: {
    barsWindowsRestored: (_, { payload }: PayloadAction<BarsWindows>) => payload,
    barsWindowMoved: (state, { payload }: PayloadAction<{ key: string; window: BarsWindows[string] }>) => {
      state[payload.key] = payload.window;
    },
  },
});

export const { barsWindowMoved, barsWindowsRestored } = barsWindowsSlice.actions;
