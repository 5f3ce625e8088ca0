export { Guide } from './Guide';
