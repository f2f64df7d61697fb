import { createRouter, createWebHistory } from 'vue-router';
import { AREAS } from './areas';

/** Every area, and every selection in it, has an address; the active candidate rides along as ?c=. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: () => import('./areas/projects/ProjectsPage.vue') },
    { path: '/layouts', name: 'layouts', component: () => import('./areas/projects/LayoutsPage.vue') },
    {
      path: '/p/:project',
      component: () => import('./components/shell/ProjectShell.vue'),
      children: [
        { path: '', redirect: (to) => ({ path: `${to.path.replace(/\/$/, '')}/brief` }) },
        // A further candidate from a starting layout.
        { path: 'layouts', name: 'layout-candidate', component: () => import('./areas/projects/LayoutsPage.vue') },
        ...AREAS.map((a) => ({ path: a.path, name: a.id, component: a.view })),
      ],
    },
    { path: '/sign-in', component: () => import('./areas/people/SignInPage.vue') },
    { path: '/join', component: () => import('./areas/people/JoinPage.vue') },
    { path: '/people', component: () => import('./areas/people/PeoplePage.vue') },
    { path: '/:any(.*)*', redirect: '/' },
  ],
});
