import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import { beThere } from './store/pages';
import './style.css';

beThere();
createApp(App).use(createPinia()).use(router).mount('#app');
