<script setup lang="ts">
import type { CandidateAccount, CodeAsked } from '~~/shared/candidates'
import type { Channel } from '~~/core/identity/address'

/**
 * A candidate's own account: the addresses that let in and are written to, a password where they want one, and where they are signed in.
 */
definePageMeta({ layout: 'candidate' })
useHead({ title: titled(say('account.yourAccount')) })
const session = useSessionStore()
const router = useRouter()
const account = shallowRef<CandidateAccount | null>(null)
const [channel, address, code] = [ref<Channel>('email'), ref(''), ref('')]
const asked = shallowRef<CodeAsked | null>(null)
const [password, again] = [ref(''), ref('')]
const { busy, refusal, send } = useSubmission()
const { failure } = useLoaded(async () => {
  account.value = await callApi<CandidateAccount>('/api/own/account')
})
const when = (at: string) => new Date(at).toLocaleString(useWords().locale, { dateStyle: 'medium', timeStyle: 'short' })
const take = async (path: string, method: 'POST' | 'PUT' | 'DELETE', body?: Record<string, unknown>) => {
  account.value = await callApi<CandidateAccount>(`/api/own/${path}`, { method, body })
}

const ask = () =>
  send(async () => {
    asked.value = await askForCode({ channel: channel.value, address: address.value })
  })
const add = () =>
  send(async () => {
    await take('addresses', 'POST', { codeId: asked.value?.id, code: code.value })
    asked.value = null
    address.value = code.value = ''
    tell(say('account.addressAdded'), 'success')
  })
const remove = (id: string) => send(() => take(`addresses/${id}`, 'DELETE'))
const setPassword = () =>
  send(async () => {
    await take('password', 'PUT', { password: password.value })
    password.value = again.value = ''
    tell(say('account.thePasswordIsChangedAllOther'), 'success')
  })
const end = (id?: string) =>
  send(async () => {
    await callApi(id ? `/api/account/sessions/${id}` : '/api/account/sessions', { method: 'DELETE', body: {} })
    account.value = await callApi<CandidateAccount>('/api/own/account')
  })
const signInAnew = () =>
  send(async () => {
    await session.signOut()
    await router.push('/apply')
  })
</script>

<template>
  <div class="account">
    <h1>{{ say('account.yourAccount') }}</h1>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <template v-if="account">
      <div
        v-if="!account.isFresh"
        class="note is-attention stale"
      >
        <span>{{ say('account.stale') }}</span>
        <HouseButton
          :busy="busy"
          @click="signInAnew"
        >
          {{ say('account.signInAnew') }}
        </HouseButton>
      </div>

      <h2>{{ say('account.addresses') }}</h2>
      <p class="soft">
        {{ say('account.addressesHelp') }}
      </p>
      <ul>
        <li
          v-for="one in account.contacts"
          :key="one.id"
        >
          <span><b>{{ one.address }}</b> <span class="soft small">{{ say('account.provedAt', { at: when(one.provedAt) }) }}</span></span>
          <HouseButton
            v-if="account.contacts.length > 1 && account.isFresh"
            small
            :busy="busy"
            :aria-label="say('account.takeOff', { address: one.address })"
            @click="remove(one.id)"
          >
            {{ say('account.takeItOff') }}
          </HouseButton>
        </li>
      </ul>
      <form
        v-if="account.isFresh"
        @submit.prevent="asked ? add() : ask()"
      >
        <template v-if="!asked">
          <FieldChoice
            v-model="channel"
            :options="[{ id: 'email', title: say('own.byEmail') }, { id: 'mobile', title: say('own.byMobile') }]"
            :label="say('account.newAddress')"
          />
          <label for="new-address">{{ channel === 'email' ? say('account.anotherEmail') : say('account.anotherMobile') }}</label>
          <input
            id="new-address"
            v-model="address"
            class="field"
            :type="channel === 'email' ? 'email' : 'tel'"
            :autocomplete="channel === 'email' ? 'email' : 'tel'"
          >
        </template>
        <template v-else>
          <label for="new-code">{{ say('own.codeSent', { address, until: new Date(asked.expiresAt).toLocaleTimeString(useWords().locale, { hour: '2-digit', minute: '2-digit' }) }) }}</label>
          <input
            id="new-code"
            v-model="code"
            class="field code"
            inputmode="numeric"
            autocomplete="one-time-code"
            maxlength="7"
          >
        </template>
        <span class="presses">
          <HouseButton
            type="submit"
            :primary="asked !== null"
            :busy="busy"
            :disabled="asked ? code.trim().length < 6 : address.trim() === ''"
          >
            {{ asked ? say('account.addIt') : say('own.sendACode') }}
          </HouseButton>
          <button
            v-if="asked"
            type="button"
            class="press"
            @click="asked = null"
          >
            {{ say('own.anotherAddress') }}
          </button>
        </span>
      </form>

      <h2>{{ say('account.password') }}</h2>
      <p class="soft">
        {{ account.passwordSince ? say('account.passwordSince', { at: when(account.passwordSince) }) : say('account.noPassword') }}
      </p>
      <form
        v-if="account.isFresh"
        @submit.prevent="setPassword"
      >
        <label for="new-password">{{ say('account.newPassword') }}</label>
        <input
          id="new-password"
          v-model="password"
          class="field"
          type="password"
          autocomplete="new-password"
        >
        <p class="soft small">
          {{ say('account.n15CharactersOrMoreSeveralWords') }}
        </p>
        <label for="new-password-again">{{ say('account.theSameAgain') }}</label>
        <input
          id="new-password-again"
          v-model="again"
          class="field"
          type="password"
          autocomplete="new-password"
        >
        <p
          v-if="again && again !== password"
          class="refusal small"
        >
          {{ say('account.theTwoAreNotTheSame') }}
        </p>
        <span class="presses">
          <HouseButton
            type="submit"
            :busy="busy"
            :disabled="password === '' || again !== password"
          >
            {{ account.passwordSince ? say('account.changeThePassword') : say('account.setAPassword') }}
          </HouseButton>
          <button
            v-if="account.passwordSince"
            type="button"
            class="press"
            :disabled="busy"
            @click="send(() => take('password', 'DELETE'))"
          >
            {{ say('account.takePasswordOff') }}
          </button>
        </span>
      </form>

      <h2>{{ say('account.whereYouAreSignedIn') }}</h2>
      <ul>
        <li
          v-for="one in account.sessions"
          :key="one.id"
        >
          <span class="device"><b>{{ one.device || say('account.unknownDevice') }}</b> <span class="soft small">{{ say('account.sessionLine', { since: when(one.createdAt), seen: when(one.lastSeenAt) }) }}</span></span>
          <span
            v-if="one.isThis"
            class="soft small"
          >{{ say('account.thisOne') }}</span>
          <HouseButton
            v-else
            small
            :busy="busy"
            @click="end(one.id)"
          >
            {{ say('account.endIt') }}
          </HouseButton>
        </li>
      </ul>
      <HouseButton
        v-if="account.sessions.length > 1"
        :busy="busy"
        @click="end()"
      >
        {{ say('account.endAllOthers') }}
      </HouseButton>
    </template>
  </div>
</template>

<style scoped>
.account { max-width: 640px; width: 100%; margin: 0 auto; padding: 20px 20px 60px; }
h1 { margin: 8px 0; }
h2 { margin: 28px 0 4px; border-bottom: 1px solid var(--line); padding-bottom: 5px; }
ul { list-style: none; padding: 0; margin: 0; }
li {
  display: flex; flex-wrap: wrap; gap: 4px 14px; justify-content: space-between; align-items: center; padding: 10px 0;
  border-bottom: 1px solid var(--line); overflow-wrap: anywhere;
}
.device { flex: 1 1 260px; }
form { display: grid; gap: 8px; padding: 14px 0; justify-items: start; }
form label { font-weight: 600; }
form .field { width: 100%; max-width: 420px; }
.presses { display: flex; flex-wrap: wrap; gap: 8px 18px; align-items: center; padding-top: 2px; }
.code { letter-spacing: 0.25em; font-size: 20px; }
.stale { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; }
</style>
