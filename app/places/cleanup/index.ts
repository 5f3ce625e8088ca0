export { CleanUp } from './CleanUp';
