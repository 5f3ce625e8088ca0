import { KINDS, make } from './made';
import { scoreOf } from './suggest';
for (const kind of KINDS) for (let seed=0; seed<9; seed++) { const m = make(kind, seed); const s = scoreOf(m); if (s.biasMs>1.5||s.onLine<0.995||s.roll<0.75||s.swing>1) console.log(kind, seed, 'bpm', m.bpm, 'swing', m.swing, s.onLine.toFixed(3), s.biasMs.toFixed(1), s.roll.toFixed(2), s.swing.toFixed(2), s.reasons.join(' | ')); }
