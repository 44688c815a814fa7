<script setup lang="ts">
import type { CodeAsked } from '~~/shared/candidates'
import type { Channel } from '~~/core/identity/address'
import type { SignedInView } from '~~/shared/people'

/** A candidate's way in: an address, and the code that was sent to it. */
definePageMeta({ layout: 'candidate' })
useHead({ title: titled(say('own.apply')) })
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const examination = computed(() => typeof route.query.examination === 'string' ? route.query.examination : '')
// Who read the notice in another language goes on in it.
if (typeof route.query.in === 'string') void attempt(() => useCycleStore().readNoticeIn(String(route.query.in)))
const channel = ref<Channel>('email')
const address = ref('')
const code = ref('')
/** What is typed in place of asking for a code; null for whoever asks for one. */
const password = ref<string | null>(null)
const asked = shallowRef<CodeAsked | null>(null)
const askedAt = ref(0)
const now = useNow(1000)
const wait = computed(() => asked.value ? Math.max(0, Math.ceil(asked.value.again - (now.value.getTime() - askedAt.value) / 1000)) : 0)
const { busy, refusal, send } = useSubmission()
const field = ref<{ focus: () => void } | null>(null)

const onward = () => router.push({ path: '/own', query: examination.value ? { examination: examination.value } : {} })
const ask = () =>
  send(async () => {
    asked.value = await askForCode({ channel: channel.value, address: address.value })
    askedAt.value = Date.now()
    code.value = ''
    await nextTick()
    field.value?.focus()
  })
const enterWithPassword = () =>
  send(async () => {
    session.take(await callApi<{ principal: SignedInView, csrfToken: string }>('/api/session', {
      method: 'POST',
      body: { signInName: address.value, password: password.value },
    }))
    if (session.principal?.kind === 'candidate') await onward()
    else await router.push('/')
  })
const enter = () =>
  send(async () => {
    if (!asked.value) return
    session.take(await callApi<{ principal: SignedInView, csrfToken: string }>(`/api/codes/${asked.value.id}`, {
      method: 'POST',
      body: { code: code.value },
    }))
    await onward()
  })
onMounted(async () => {
  await session.load()
  if (session.principal?.kind === 'candidate') await onward()
})
</script>

<template>
  <form
    class="way"
    @submit.prevent="password !== null ? enterWithPassword() : asked ? enter() : ask()"
  >
    <h1>{{ say('own.yourAddress') }}</h1>
    <p class="soft">
      {{ say('own.yourAddressHelp') }}
    </p>
    <template v-if="!asked">
      <FieldChoice
        v-model="channel"
        :options="[{ id: 'email', title: say('own.byEmail') }, { id: 'mobile', title: say('own.byMobile') }]"
        :label="say('own.yourAddress')"
      />
      <label for="address">{{ channel === 'email' ? say('own.email') : say('own.mobile') }}</label>
      <input
        id="address"
        v-model="address"
        class="field"
        :type="channel === 'email' ? 'email' : 'tel'"
        :inputmode="channel === 'email' ? 'email' : 'tel'"
        :autocomplete="channel === 'email' ? 'email' : 'tel'"
      >
      <template v-if="password !== null">
        <label for="password">{{ say('own.password') }}</label>
        <input
          id="password"
          v-model="password"
          class="field"
          type="password"
          autocomplete="current-password"
        >
      </template>
    </template>
    <template v-else>
      <p role="status">
        {{ say('own.codeSent', { address, until: new Date(asked.expiresAt).toLocaleTimeString(useWords().locale, { hour: '2-digit', minute: '2-digit' }) }) }}
      </p>
      <label for="code">{{ say('own.code') }}</label>
      <input
        id="code"
        ref="field"
        v-model="code"
        inputmode="numeric"
        autocomplete="one-time-code"
        maxlength="7"
        class="field code"
      >
    </template>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <HouseButton
      primary
      type="submit"
      :busy="busy"
      :disabled="asked ? code.trim().length < 6 : address.trim() === '' || password === ''"
    >
      {{ asked || password !== null ? say('own.goIn') : say('own.sendACode') }}
    </HouseButton>
    <p
      v-if="!asked"
      class="small presses"
    >
      <button
        type="button"
        class="press"
        @click="password = password === null ? '' : null"
      >
        {{ password === null ? say('own.withPassword') : say('own.withCode') }}
      </button>
    </p>
    <p
      v-else
      class="small presses"
    >
      <span
        v-if="wait > 0"
        class="soft"
      >{{ say('own.anotherIn', { seconds: wait }) }}</span>
      <button
        v-else
        type="button"
        class="press"
        @click="ask"
      >
        {{ say('own.another') }}
      </button>
      <button
        type="button"
        class="press"
        @click="asked = null"
      >
        {{ say('own.anotherAddress') }}
      </button>
    </p>
    <p
      v-if="asked"
      class="small soft"
    >
      {{ say('own.notThere') }}
    </p>
  </form>
</template>

<style scoped>
.way { display: flex; flex-direction: column; gap: 10px; max-width: 420px; width: 100%; margin: 0 auto; padding: 28px 20px 48px; }
label { font-weight: 600; }
.button { height: 46px; font-size: 17px; margin-top: 4px; }
.presses { display: flex; flex-wrap: wrap; gap: 6px 18px; }
.presses button { min-height: 26px; }
.code { letter-spacing: 0.25em; font-size: 22px; }
</style>
