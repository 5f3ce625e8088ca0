import { parentPort, workerData } from 'node:worker_threads';
import type { Cleaning } from '@ordle/core';
import { cleanOne, type CleaningJob } from './cleanOne';

/** The thread that cleans: answers every job it is sent with what came of it. What is done comes once, at the start. */
const { cleaning } = workerData as { cleaning: Cleaning };
parentPort?.on('message', (job: CleaningJob) => parentPort?.postMessage(cleanOne(job, cleaning)));
