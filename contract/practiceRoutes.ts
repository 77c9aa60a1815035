import { z } from 'zod';
import {
  exerciseChange,
  exerciseFile,
  exerciseId,
  heldExercise,
  listedExercise,
  practiceRun,
  practiceRunInput,
} from './practice.ts';
import { byId, created, route } from './route.ts';

const byExercise = z.strictObject({ id: exerciseId });

/** Machines to practise on, and who practised. */
export const practiceRoutes = {
  listExercises: route(
    'get',
    '/practice/exercises',
    'staff',
    'Exercises that came with Tembrix, and the shop’s own',
    z.array(listedExercise),
  ),
  readExercise: route('get', '/practice/exercises/{id}', 'staff', 'One exercise', heldExercise, {
    params: byExercise,
  }),
  importExercise: route(
    'post',
    '/practice/exercises',
    'bench',
    'Take in an exercise from its file; it must be solvable',
    heldExercise,
    { body: exerciseFile, ...created },
  ),
  exerciseFromJob: route(
    'post',
    '/practice/exercises/from-job/{id}',
    'bench',
    'Make an exercise of a closed job, without anything of its customer',
    heldExercise,
    { params: byId, body: z.strictObject({}), ...created },
  ),
  changeExercise: route(
    'put',
    '/practice/exercises/{id}',
    'bench',
    'Change goal and words of one of the shop’s own',
    heldExercise,
    { params: byExercise, body: exerciseChange },
  ),
  removeExercise: route(
    'delete',
    '/practice/exercises/{id}',
    'bench',
    'Remove one of the shop’s own',
    z.array(listedExercise),
    { params: byExercise },
  ),
  listPracticeRuns: route(
    'get',
    '/practice/runs',
    'staff',
    'What one practised, the latest first; the owner may name somebody',
    z.array(practiceRun),
    { query: z.strictObject({ by: z.string().trim().max(60).default('') }) },
  ),
  recordPracticeRun: route(
    'post',
    '/practice/runs',
    'staff',
    'Record an exercise gone through to its end',
    practiceRun,
    { body: practiceRunInput, ...created },
  ),
} as const;
