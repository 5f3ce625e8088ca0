/** One reading of two clocks at the same moment: ms of the page, seconds of the sound. */
export interface ClockPair {
  page: number;
  audio: number;
}

/** How many readings the slope is fitted over. */
const READINGS = 10;

/**
 * The audio clock told by the clock of the page: a line fitted (least squares) through the last ten readings, so that
 * the jitter of one of them is not passed on. A reading more than `slip` seconds off the line means that blocks of
 * sound were missed: the fit begins anew there, and it is counted.
 */
export function createClockFit(slip = 0.02) {
  let pairs: ClockPair[] = [];
  let line = { page: 0, audio: 0, slope: 0.001 };
  let slips = 0;

  const audioAt = (page: number) => line.audio + (page - line.page) * line.slope;

  function fit() {
    const count = pairs.length;
    const page = pairs.reduce((sum, pair) => sum + pair.page, 0) / count;
    const audio = pairs.reduce((sum, pair) => sum + pair.audio, 0) / count;
    let [both, own] = [0, 0];
    for (const pair of pairs) {
      both += (pair.page - page) * (pair.audio - audio);
      own += (pair.page - page) ** 2;
    }
    // Clocks of one machine differ by far less than a thousandth; a steeper line is jitter of readings close together.
    const slope = own > 0 ? both / own : 0.001;
    line = { page, audio, slope: Math.min(0.001001, Math.max(0.000999, slope)) };
  }

  return {
    add(pair: ClockPair) {
      if (pairs.length > 0 && Math.abs(audioAt(pair.page) - pair.audio) > slip) {
        slips++;
        pairs = [];
      }
      pairs = [...pairs.slice(1 - READINGS), pair];
      fit();
    },
    /** Seconds of the audio clock at a moment of the page's (ms), and back. */
    audioAt,
    pageAt: (audio: number) => line.page + (audio - line.audio) / line.slope,
    /** How often the audio clock slipped so far. */
    slips: () => slips,
    isSet: () => pairs.length > 0,
  };
}
