import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { sessionSlice } from './sessionSlice';
import { viewSlice, windowsSlice, barsWindowsSlice } from './viewSlice';

/**
 * The document with its history, and what a person looks at. Columns of notes stay out: they live in the engine and
 * the editor.
 */
export function createAppStore() {
  return configureStore({
    reducer: {
      session: sessionSlice.reducer,
      view: viewSlice.reducer,
      windows: windowsSlice.reducer,
      barsWindows: barsWindowsSlice.reducer,
    },
    middleware: (defaults) =>
      defaults({
        // Documents are plain data by their schema; walking them at every move of a slider would cost the frame.
        serializableCheck: false,
        immutableCheck: false,
      }),
  });
}

export const store = createAppStore();

export type AppStore = ReturnType<typeof createAppStore>;
export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
