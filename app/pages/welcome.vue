<script setup lang="ts">
import type { SignedInView } from '~~/shared/people'

/** Where a one-time link leads: sets the password, and signs in. The link's secret stands behind the hash, which no server's log holds. */
definePageMeta({ layout: 'plain' })
useHead({ title: titled(say('entry.setYourPassword')), meta: [{ name: 'referrer', content: 'no-referrer' }] })
const session = useSessionStore()
const router = useRouter()
const token = ref('')
const person = shallowRef<{ name: string, signInName: string } | null>(null)
const password = ref('')
const again = ref('')
const { busy, refusal, send } = useSubmission()

onMounted(async () => {
  token.value = window.location.hash.slice(1)
  try {
    person.value = await callApi<{ name: string, signInName: string }>('/api/links', {
      method: 'POST',
      body: { token: token.value || 'none' },
    })
  } catch (error) {
    refusal.value = problemText(error)
  }
})
const submit = () =>
  send(async () => {
    session.take(await callApi<{ principal: SignedInView, csrfToken: string }>('/api/links/use', {
      method: 'POST',
      body: { token: token.value, password: password.value },
    }))
    await router.replace('/')
  })
</script>

<template>
  <form
    class="form"
    @submit.prevent="submit"
  >
    <h1>{{ say('entry.setYourPassword') }}</h1>
    <template v-if="person">
      <p>{{ say('entry.welcome') }} <b>{{ person.name }}</b>{{ say('entry.youWillSignInAs') }} <b>{{ person.signInName }}</b>.</p>
      <HouseNewPassword
        v-model="password"
        v-model:again="again"
        :label="say('entry.password')"
        autofocus
      />
    </template>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <ElButton
      v-if="person"
      type="primary"
      native-type="submit"
      :loading="busy"
      :disabled="!password || password !== again"
    >
      {{ say('entry.setItAndGoIn') }}
    </ElButton>
    <p
      v-else
      class="soft small"
    >
      <NuxtLink to="/sign-in">{{ say('entry.toTheSignIn') }}</NuxtLink>
    </p>
  </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 8px; max-width: 440px; margin: 24px auto; }
.el-button { margin-top: 16px; height: 42px; }
</style>
