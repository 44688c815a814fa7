<script setup lang="ts">
import { roleWords } from '~~/core/words/en/people'
import type { AccountView, FactorOffer, SessionView } from '~~/shared/people'

/** One's own account: password, second factor, and where one is signed in. */
useHead({ title: 'Your account · Lucid Roster' })
const session = useSessionStore()
const account = shallowRef<AccountView | null>(null)
const sessions = shallowRef<SessionView[]>([])
const present = ref('')
const fresh = ref('')
const again = ref('')
const offer = shallowRef<FactorOffer | null>(null)
const code = ref('')
const factorPassword = ref('')
const recovery = shallowRef<string[]>([])
const busy = ref(false)

const { failure, reload: load } = useLoaded(async () => {
  [account.value, sessions.value] = await Promise.all([callApi<AccountView>('/api/account'), callApi<SessionView[]>('/api/account/sessions')])
})
async function during(work: () => Promise<void>) {
  if (busy.value) return
  busy.value = true
  await attempt(work)
  busy.value = false
}
const changePassword = () => during(async () => {
  await callApi('/api/account/password', { method: 'PUT', body: { present: present.value, password: fresh.value } })
  present.value = fresh.value = again.value = ''
  ElMessage({ message: 'The password is changed. All other sessions have ended.', type: 'success' })
  await load()
})
const begin = () => during(async () => { offer.value = await callApi<FactorOffer>('/api/account/factor') })
const setFactor = () => during(async () => {
  const made = await callApi<{ recoveryCodes: string[] }>('/api/account/factor', { method: 'PUT', body: { secret: offer.value?.secret, code: code.value, password: factorPassword.value } })
  recovery.value = made.recoveryCodes
  offer.value = null
  code.value = factorPassword.value = ''
  await session.load(true)
  await load()
})
const removing = ref(false)
const removeFactor = () => during(async () => {
  await callApi('/api/account/factor', { method: 'DELETE', body: { password: factorPassword.value } })
  factorPassword.value = ''
  removing.value = false
  await load()
})
const end = (id: string) => during(async () => { sessions.value = await callApi<SessionView[]>(`/api/account/sessions/${id}`, { method: 'DELETE', body: {} }) })
const endOthers = () => during(async () => { sessions.value = await callApi<SessionView[]>('/api/account/sessions', { method: 'DELETE', body: {} }) })
const when = (at: string) => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page account">
    <h1>Your account</h1>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="session.principal?.needsFactor"
      class="note is-attention"
    >
      Your role signs in with a second factor. Set it up here; then everything else is open to you.
    </p>
    <p
      v-if="account"
      class="soft"
    >
      {{ account.name }} · signs in as <b>{{ account.signInName }}</b> · {{ session.principal?.roles.map(role => roleWords[role].title).join(', ') }}
    </p>
    <section>
      <h2 class="section-title">
        Second factor
      </h2>
      <div
        v-if="recovery.length > 0"
        class="note is-attention"
        role="status"
      >
        <p><b>Ten recovery codes.</b> Each lets you in once when the authenticator is lost. They are shown only now: print them or write them down.</p>
        <ol class="codes">
          <li
            v-for="one in recovery"
            :key="one"
          >
            <code>{{ one }}</code>
          </li>
        </ol>
        <ElButton @click="recovery = []">
          I have them
        </ElButton>
      </div>
      <p v-else-if="account?.hasFactor">
        Set up; {{ account.recoveryCodesLeft }} recovery {{ account.recoveryCodesLeft === 1 ? 'code is' : 'codes are' }} left.
      </p>
      <p
        v-else
        class="soft"
      >
        None. With one, a stolen password alone opens nothing.
      </p>
      <form
        v-if="offer"
        class="offer"
        @submit.prevent="setFactor"
      >
        <img
          :src="offer.picture"
          alt="Code for your authenticator"
          width="220"
          height="220"
        >
        <div>
          <p>Read the code with an authenticator, or type its secret: <code>{{ offer.secret.match(/.{4}/g)?.join(' ') }}</code></p>
          <label for="factor-code">The six digits that it shows now</label>
          <ElInput
            id="factor-code"
            v-model="code"
            inputmode="numeric"
            autocomplete="one-time-code"
          />
          <label for="factor-password">Your password</label>
          <ElInput
            id="factor-password"
            v-model="factorPassword"
            type="password"
            autocomplete="current-password"
          />
          <ElButton
            type="primary"
            native-type="submit"
            :loading="busy"
            :disabled="!code || !factorPassword"
          >
            Set up
          </ElButton>
        </div>
      </form>
      <form
        v-else-if="removing"
        @submit.prevent="removeFactor"
      >
        <label for="remove-password">Your password</label>
        <ElInput
          id="remove-password"
          v-model="factorPassword"
          type="password"
          autocomplete="current-password"
        />
        <ElButton native-type="submit">
          Remove the second factor
        </ElButton>
      </form>
      <div
        v-else-if="recovery.length === 0"
        class="presses"
      >
        <ElButton @click="begin">
          {{ account?.hasFactor ? 'Set up another authenticator' : 'Set up a second factor' }}
        </ElButton>
        <ElButton
          v-if="account?.hasFactor && !account.factorRequired"
          @click="removing = true"
        >
          Remove it
        </ElButton>
      </div>
    </section>
    <section>
      <h2 class="section-title">
        Password
      </h2>
      <form @submit.prevent="changePassword">
        <label for="present">Present password</label>
        <ElInput
          id="present"
          v-model="present"
          type="password"
          autocomplete="current-password"
        />
        <HouseNewPassword
          v-model="fresh"
          v-model:again="again"
          label="New password"
        />
        <ElButton
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="!present || !fresh || fresh !== again"
        >
          Change the password
        </ElButton>
      </form>
    </section>
    <section>
      <h2 class="section-title">
        Where you are signed in
      </h2>
      <div class="wide">
        <table class="plain-table">
          <thead><tr><th>since</th><th>last seen</th><th>device</th><th><span class="visually-hidden">end</span></th></tr></thead>
          <tbody>
            <tr
              v-for="one in sessions"
              :key="one.id"
            >
              <td class="nowrap">
                {{ when(one.createdAt) }}
              </td><td class="nowrap">
                {{ when(one.lastSeenAt) }}
              </td><td class="soft small">
                {{ one.device || 'unknown' }}
              </td>
              <td>
                <b
                  v-if="one.isThis"
                  class="nowrap"
                >this one</b><button
                  v-else
                  class="press"
                  @click="end(one.id)"
                >
                  End it
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <ElButton
        v-if="sessions.length > 1"
        @click="endOthers"
      >
        End all others
      </ElButton>
    </section>
  </div>
</template>

<style scoped>
.account { max-width: 860px; }
section { margin-top: 24px; }
form { max-width: 420px; }
form.offer { max-width: none; display: flex; flex-wrap: wrap; gap: 24px; margin-top: 12px; }
form.offer > div { flex: 1; min-width: 260px; max-width: 420px; }
label { display: block; font-weight: 600; margin: 12px 0 4px; }
.el-button { margin-top: 12px; }
.presses { display: flex; gap: 8px; }
.codes { columns: 2; max-width: 460px; }
.wide { overflow-x: auto; }
img { image-rendering: pixelated; border: 1px solid var(--line); }
</style>
