<script setup lang="ts">
import type { AccountView, SessionView } from '~~/shared/people'

const { roleWords } = useWords().people

/** One's own account: password, second factor, and where one is signed in. */
useHead({ title: titled(say('account.yourAccount')) })
const session = useSessionStore()
const account = shallowRef<AccountView | null>(null)
const sessions = shallowRef<SessionView[]>([])
const present = ref('')
const fresh = ref('')
const again = ref('')
const { busy, during } = useBusy()

const { failure, reload: load } = useLoaded(async () => {
  ;[account.value, sessions.value] = await Promise.all([callApi<AccountView>('/api/account'),
    callApi<SessionView[]>('/api/account/sessions')])
})
const changePassword = () =>
  during(async () => {
    await callApi('/api/account/password', { method: 'PUT', body: { present: present.value, password: fresh.value } })
    present.value = fresh.value = again.value = ''
    tell(say('account.thePasswordIsChangedAllOther'), 'success')
    await load()
  })
const end = (id: string) =>
  during(async () => {
    sessions.value = await callApi<SessionView[]>(`/api/account/sessions/${id}`, { method: 'DELETE', body: {} })
  })
const endOthers = () =>
  during(async () => {
    sessions.value = await callApi<SessionView[]>('/api/account/sessions', { method: 'DELETE', body: {} })
  })
const when = (at: string) => new Date(at).toLocaleString(useWords().locale, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page account">
    <h1>{{ say('account.yourAccount') }}</h1>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="session.principal?.needsFactor"
      class="note is-attention"
    >
      {{ say('account.yourRoleSignsInWithA') }}
    </p>
    <p
      v-if="account"
      class="soft"
    >
      {{ say('account.signsInAs', { name: account.name }) }} <b>{{ account.signInName }}</b> · {{ session.principal?.roles.map(role => roleWords[role].title).join(', ') }}
    </p>
    <AccountFactor
      v-if="account"
      :account="account"
      @changed="load"
    />
    <section>
      <h2 class="section-title">
        {{ say('account.password') }}
      </h2>
      <form @submit.prevent="changePassword">
        <label for="present">{{ say('account.presentPassword') }}</label>
        <ElInput
          id="present"
          v-model="present"
          type="password"
          autocomplete="current-password"
        />
        <HouseNewPassword
          v-model="fresh"
          v-model:again="again"
          :label="say('account.newPassword')"
        />
        <ElButton
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="!present || !fresh || fresh !== again"
        >
          {{ say('account.changeThePassword') }}
        </ElButton>
      </form>
    </section>
    <section>
      <h2 class="section-title">
        {{ say('account.whereYouAreSignedIn') }}
      </h2>
      <div class="wide">
        <HouseTable
          :columns="[
            { key: 'since', title: say('account.since'), kind: 'line', text: one => when(one.createdAt) },
            { key: 'seen', title: say('account.lastSeen'), kind: 'line', text: one => when(one.lastSeenAt) },
            { key: 'device', title: say('account.device'), look: 'soft small', text: one => one.device || say('account.unknownDevice') },
            { key: 'ending', title: say('account.end'), isQuiet: true },
          ]"
          :rows="sessions"
          :row-key="one => one.id"
        >
          <template #ending="{ row: one }">
            <b
              v-if="one.isThis"
              class="nowrap"
            >{{ say('account.thisOne') }}</b><button
              v-else
              class="press"
              @click="end(one.id)"
            >
              {{ say('account.endIt') }}
            </button>
          </template>
        </HouseTable>
      </div>
      <ElButton
        v-if="sessions.length > 1"
        @click="endOthers"
      >
        {{ say('account.endAllOthers') }}
      </ElButton>
    </section>
  </div>
</template>

<style scoped>
.account { max-width: 860px; }
section { margin-top: 24px; }
form { max-width: 420px; }
label { display: block; font-weight: 600; margin: 12px 0 4px; }
.el-button { margin-top: 12px; }
.wide { overflow-x: auto; }
</style>
