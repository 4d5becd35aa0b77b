import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'

declare module 'vue-router' {
  interface RouteMeta {
    open?: boolean
  }
}

const candidate = (path: string, name: string, component: () => Promise<unknown>) => ({
  path,
  name,
  component,
})

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('./screens/sign-in/SignIn.vue'),
      meta: { open: true },
    },
    { path: '/', name: 'roster', component: () => import('./screens/roster/Roster.vue') },
    { path: '/new', name: 'new', component: () => import('./screens/new-plan/NewPlan.vue') },
    {
      // What one is invited to is told before one signs in.
      path: '/join/:code',
      name: 'join',
      component: () => import('./screens/join/Join.vue'),
      meta: { open: true },
    },
    { path: '/shared/:token', name: 'shared', component: () => import('./screens/shared/Shared.vue') },
    { path: '/exams', name: 'exams', component: () => import('./screens/exams/Exams.vue') },
    { path: '/exams/:examId', name: 'exam', component: () => import('./screens/exams/Exam.vue') },
    {
      path: '/c/:candidateId',
      component: () => import('./screens/Workspace.vue'),
      children: [
        { path: '', redirect: (to) => ({ name: 'today', params: to.params }) },
        candidate('today', 'today', () => import('./screens/today/Today.vue')),
        candidate('plan', 'plan', () => import('./screens/plan/Plan.vue')),
        candidate('plan/print', 'plan-print', () => import('./screens/plan/PrintPlan.vue')),
        candidate('diagnosis', 'diagnosis', () => import('./screens/diagnosis/Diagnosis.vue')),
        candidate('gap', 'gap', () => import('./screens/gap/Gap.vue')),
        candidate('scores', 'scores', () => import('./screens/scores/Scores.vue')),
        candidate('sit', 'sit', () => import('./screens/sit/Sit.vue')),
        candidate(
          'review/print/:attemptId',
          'review-print',
          () => import('./screens/review/PrintReview.vue'),
        ),
        candidate('notebook/print', 'review-notebook', () => import('./screens/review/PrintReview.vue')),
        candidate('review/again', 'review-again', () => import('./screens/review/Again.vue')),
        candidate('review/:attemptId?', 'review', () => import('./screens/review/Review.vue')),
        candidate('recall/print', 'recall-print', () => import('./screens/recall/PrintNumbers.vue')),
        candidate('recall', 'recall', () => import('./screens/recall/Recall.vue')),
        candidate('tests/:attemptId?', 'tests', () => import('./screens/tests/Tests.vue')),
        candidate('pacing', 'pacing', () => import('./screens/pacing/Pacing.vue')),
        candidate('guessing', 'guessing', () => import('./screens/guessing/Guessing.vue')),
        candidate('exam-day', 'exam-day', () => import('./screens/exam-day/ExamDay.vue')),
        candidate('set-up', 'set-up', () => import('./screens/set-up/SetUp.vue')),
      ],
    },
    {
      // Outside the workspace, which needs the server: the card is read with the network off, too.
      path: '/c/:candidateId/card',
      name: 'card',
      component: () => import('./screens/card/Card.vue'),
      meta: { open: true },
    },
    {
      // Outside the workspace: nothing but the test is to be seen.
      path: '/c/:candidateId/room/:roomId',
      name: 'room',
      component: () => import('./screens/room/Room.vue'),
    },
    // For whoever builds screens: every control, in its states.
    ...(import.meta.env.DEV
      ? [
          {
            path: '/kit',
            name: 'kit',
            component: () => import('./screens/kit/Kit.vue'),
            meta: { open: true },
          },
        ]
      : []),
    {
      path: '/:rest(.*)*',
      name: 'not-found',
      component: () => import('./screens/not-found/NotFound.vue'),
      meta: { open: true },
    },
  ],
})

router.beforeEach(async (to) => {
  const session = useSession()
  try {
    await session.load()
  } catch {
    // The screen says that the server does not answer.
  }
  if (!session.signedIn && !to.meta.open)
    return { name: 'sign-in', query: to.fullPath === '/' ? {} : { to: to.fullPath } }
  if (session.signedIn && to.name === 'sign-in') return { name: 'roster' }
  return true
})
