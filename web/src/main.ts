import '@fontsource-variable/atkinson-hyperlegible-mono'
import '@fontsource-variable/atkinson-hyperlegible-next'
import 'element-plus/dist/index.css'
import { createApp } from 'vue'
import App from './App.vue'
import './shared/theme.css'
import './shared/controls.css'

createApp(App).mount('#app')
