import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { preparePrinting } from './lib/printing';
import { router } from './router';
import { beThere } from './store/pages';
import './style.css';

beThere();
preparePrinting();
createApp(App).use(createPinia()).use(router).mount('#app');
