import { createRouter, createWebHistory } from 'vue-router';

/** Every area, and every selection in it, has an address; the active candidate rides along as ?c=. */
export const AREAS = [
  { id: 'brief', name: 'Brief', group: '', question: 'What must it do?' },
  { id: 'sections', name: 'Sections', group: 'Shape', question: 'Which aerofoils, in what shape?' },
  { id: 'airframe', name: 'Airframe', group: 'Shape', question: 'What does the vehicle look like?' },
  { id: 'lift', name: 'Lift', group: 'Flow', question: 'How does it lift?' },
  { id: 'balance', name: 'Balance', group: 'Flight', question: 'Where is the mass, does it trim, is it stable?' },
] as const;
export type AreaId = (typeof AREAS)[number]['id'];

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: () => import('./areas/projects/ProjectsPage.vue') },
    {
      path: '/p/:project',
      component: () => import('./components/shell/ProjectShell.vue'),
      children: [
        { path: '', redirect: (to) => ({ path: `${to.path.replace(/\/$/, '')}/brief` }) },
        { path: 'brief', name: 'brief', component: () => import('./areas/brief/BriefArea.vue') },
        { path: 'sections/:section?', name: 'sections', component: () => import('./areas/sections/SectionsArea.vue') },
        { path: 'airframe/:surface?', name: 'airframe', component: () => import('./areas/airframe/AirframeArea.vue') },
        { path: 'lift', name: 'lift', component: () => import('./areas/lift/LiftArea.vue') },
        { path: 'balance', name: 'balance', component: () => import('./areas/balance/BalanceArea.vue') },
      ],
    },
    { path: '/:any(.*)*', redirect: '/' },
  ],
});
