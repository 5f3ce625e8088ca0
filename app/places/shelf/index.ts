export { Shelf } from './Shelf';
