import { parentPort, workerData } from 'node:worker_threads';
import { cleanOne, type Cleaning, type CleaningJob } from './cleanOne';

/** The thread that cleans: answers every job it is sent with what came of it. The steps come once, at the start. */
const { steps } = workerData as { steps: Cleaning };
parentPort?.on('message', (job: CleaningJob) => parentPort?.postMessage(cleanOne(job, steps)));
