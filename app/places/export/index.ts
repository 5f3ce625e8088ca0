export { Export } from './Export';
