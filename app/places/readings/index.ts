export { Readings } from './Readings';
