export { Tempo } from './Tempo';
