/** Who one is here: everybody on the own machine; elsewhere somebody who signed in, or came by a share link. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, onSignedOut, useCsrfToken, type Schemas } from '../api/client'
import { closeLine } from '../api/line'

type Session = Schemas['SessionState']

const LINK = '#link='

export const useSession = createGlobalState(() => {
  const session = ref<Session | null>(null)
  const trouble = ref('')

  function take(state: Session): void {
    session.value = state
    useCsrfToken(state.csrf_token)
  }

  onSignedOut(() => {
    if (session.value) session.value = { ...session.value, known: false }
  })

  return {
    session,
    trouble,
    known: computed(() => session.value?.known ?? false),

    /** Find out who one is; a share link in the address lets one in. */
    async load(): Promise<void> {
      try {
        take(await api.session())
        const secret = location.hash.startsWith(LINK) ? location.hash.slice(LINK.length) : ''
        if (!secret || !session.value?.sign_in) return
        history.replaceState(null, '', location.pathname)
        if (!session.value.name) take(await api.signInByLink(secret))
      } catch (error) {
        trouble.value = error instanceof Error ? error.message : String(error)
      }
    },

    async signIn(name: string, password: string): Promise<void> {
      take(await api.signIn(name, password))
      closeLine()
    },

    async signOut(): Promise<void> {
      await api.signOut()
      location.reload()
    },
  }
})
