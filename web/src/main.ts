import '@fontsource-variable/atkinson-hyperlegible-mono'
import '@fontsource-variable/atkinson-hyperlegible-next'
import 'element-plus/dist/index.css'
import { createApp } from 'vue'
import Bench from './bench/Bench.vue'
import './shared/theme.css'

createApp(Bench).mount('#app')
