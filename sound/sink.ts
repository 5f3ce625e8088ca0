/** Where the player sends what is to sound. `voice` is the place of a part in the score. */
export interface Sink {
  /** Gives a voice its instrument before anything is played on it. */
  prepare(voice: number, program: number, drums: boolean): void;
  noteOn(voice: number, pitch: number, velocity: number): void;
  noteOff(voice: number, pitch: number): void;
  /** A channel message by its status kind (0xA0-0xE0) and data. */
  message(voice: number, kind: number, data1: number, data2: number): void;
  /**
   * Puts a voice into the state of an instrument nobody has touched: controllers, parameters, pressure, bend; nothing
   * is held.
   */
  reset(voice: number): void;
  /** Ends everything that sounds, at once. */
  silence(): void;
  /** `level`: 1 as it is made. */
  click(accent: boolean, level: number): void;
}
