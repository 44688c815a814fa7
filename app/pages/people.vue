<script setup lang="ts">
import type { StaffRole } from '~~/core/access/principal'
import { staffRoles } from '~~/core/access/principal'
import { roleWords } from '~~/core/words/en/people'
import { actButtons } from '~~/core/words/en/acts'
import { secondPersonActs } from '~~/core/notice/schema'
import type { ActId } from '~~/core/application/acts/table'
import type { LinkMade, OfficeSettings, StaffInput, StaffView } from '~~/shared/people'

/** The people of the office: who may do what, invitations, leaving, and what the office has decided for itself. */
useHead({ title: 'People · Lucid Roster' })
const cycle = useCycleStore()
const staff = shallowRef<StaffView[]>([])
const settings = ref<OfficeSettings>({ factorRoles: [], withoutSecondPerson: [] })
const edited = ref<(StaffInput & { id: string | null }) | null>(null)
const link = shallowRef<{ name: string, address: string, until: string } | null>(null)
const busy = ref(false)
const alwaysSecond = ['take-back-refusal', 'reopen'] as const
const secondActs = computed(() => [...alwaysSecond, ...secondPersonActs])
const actTitle = (act: string) => act === 'publish-run' ? 'Publish a run' : actButtons[act as ActId]?.press ?? act

const { failure, reload: load } = useLoaded(async () => {
  [staff.value, settings.value] = await Promise.all([callApi<StaffView[]>('/api/staff'), callApi<OfficeSettings>('/api/office')])
})
function show(name: string, made: LinkMade) {
  link.value = { name, address: new URL(made.path, window.location.origin).href, until: made.expiresAt }
}
const venueList = computed(() => cycle.notice?.cities.flatMap(c => c.venues.map(v => ({ id: v.id, title: `${v.title}, ${c.title}` }))) ?? [])

async function save() {
  const person = edited.value
  if (!person || busy.value) return
  busy.value = true
  await attempt(async () => {
    const { id, ...body } = person
    if (id) staff.value = await callApi<StaffView[]>(`/api/staff/${id}`, { method: 'PUT', body })
    else {
      show(body.name, await callApi<LinkMade>('/api/staff', { method: 'POST', body }))
      await load()
    }
    edited.value = null
  })
  busy.value = false
}
async function newLink(one: StaffView) {
  await attempt(async () => {
    show(one.name, await callApi<LinkMade>(`/api/staff/${one.id}/link`, { method: 'POST', body: {} }))
    await load()
  })
}
const setActive = (one: StaffView, active: boolean) => attempt(async () => { staff.value = await callApi<StaffView[]>(`/api/staff/${one.id}/active`, { method: 'PUT', body: { active } }) })
const keepSettings = () => attempt(async () => { settings.value = await callApi<OfficeSettings>('/api/office', { method: 'PUT', body: settings.value }) })
async function copy() {
  if (link.value && await attempt(() => navigator.clipboard.writeText(link.value?.address ?? ''))) ElMessage({ message: 'Copied', type: 'success' })
}
const state = (one: StaffView) => !one.active ? '– left' : one.hasPassword ? '● active' : one.hasLink ? '○ invited' : '○ invitation ended'
const when = (at: string | null) => at ? new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }) : 'never'
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <div class="page-head">
        <h1>People of the office</h1>
        <div class="actions">
          <ElButton
            type="primary"
            @click="edited = { id: null, signInName: '', name: '', roles: [], venues: [] }"
          >
            Invite somebody
          </ElButton>
        </div>
      </div>
      <HouseAlert
        :text="failure"
        kind="refusal"
      />
      <div
        v-if="link"
        class="note link"
        role="status"
      >
        <p><b>One-time link for {{ link.name }}.</b> Give it to them yourself: it is shown only now, lets in whoever opens it first, and ends {{ when(link.until) }}.</p>
        <code>{{ link.address }}</code>
        <ElButton
          size="small"
          @click="copy"
        >
          Copy
        </ElButton>
        <ElButton
          size="small"
          @click="link = null"
        >
          Done
        </ElButton>
      </div>
      <div class="wide">
        <table class="plain-table">
          <thead><tr><th>name</th><th>signs in as</th><th>roles</th><th>state</th><th>second factor</th><th>last seen</th><th><span class="visually-hidden">acts</span></th></tr></thead>
          <tbody>
            <tr
              v-for="one in staff"
              :key="one.id"
              :class="{ left: !one.active }"
            >
              <td><b>{{ one.name }}</b><span v-if="one.isOwn"> (you)</span></td>
              <td>{{ one.signInName }}</td>
              <td>{{ one.roles.map(role => roleWords[role].title).join(', ') }}</td>
              <td class="nowrap">
                {{ state(one) }}
              </td>
              <td>{{ one.hasFactor ? '✓ set up' : '–' }}</td>
              <td class="soft nowrap">
                {{ when(one.lastSeenAt) }}
              </td>
              <td>
                <div class="presses">
                  <button
                    class="press"
                    @click="edited = { id: one.id, signInName: one.signInName, name: one.name, roles: [...one.roles], venues: [...one.venues] }"
                  >
                    Change
                  </button>
                  <button
                    v-if="one.active && !one.isOwn"
                    class="press"
                    @click="newLink(one)"
                  >
                    {{ one.hasPassword ? 'Link for a new password' : 'New link' }}
                  </button>
                  <button
                    v-if="!one.isOwn"
                    class="press"
                    @click="setActive(one, !one.active)"
                  >
                    {{ one.active ? 'Has left' : 'Is back' }}
                  </button>
                </div>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="soft small">
        Who has left signs in no more; what they did stays theirs in every record.
      </p>
    </div>
    <div class="beside">
      <h2>Second factor</h2>
      <p class="soft small">
        Roles that sign in with a code of an authenticator besides the password. Who has none sets it up at the next sign-in.
      </p>
      <ElCheckboxGroup
        v-model="settings.factorRoles"
        @change="keepSettings"
      >
        <ElCheckbox
          v-for="role in staffRoles"
          :key="role"
          :value="role"
          :label="roleWords[role].title"
        />
      </ElCheckboxGroup>
      <h2>Without a second person</h2>
      <p class="soft small">
        Some acts wait for a second person: always, or because the notice says so. An office of one person says here, on record, which it does alone.
      </p>
      <ElCheckboxGroup
        v-model="settings.withoutSecondPerson"
        @change="keepSettings"
      >
        <ElCheckbox
          v-for="act in secondActs"
          :key="act"
          :value="act"
          :label="actTitle(act)"
        />
      </ElCheckboxGroup>
    </div>
    <ElDialog
      v-if="edited"
      :model-value="true"
      :title="edited.id ? 'Change an account' : 'Invite somebody'"
      width="min(620px, 94vw)"
      @close="edited = null"
    >
      <label for="person-name">Name</label>
      <ElInput
        id="person-name"
        v-model="edited.name"
        autofocus
        :maxlength="100"
      />
      <label for="person-sign-in">Signs in as</label>
      <ElInput
        id="person-sign-in"
        v-model="edited.signInName"
        :maxlength="40"
      />
      <fieldset>
        <legend>Roles</legend>
        <ElCheckboxGroup v-model="edited.roles">
          <div
            v-for="role in staffRoles"
            :key="role"
          >
            <ElCheckbox
              :value="role"
              :label="roleWords[role as StaffRole].title"
            /> <span class="soft small">{{ roleWords[role as StaffRole].says }}</span>
          </div>
        </ElCheckboxGroup>
      </fieldset>
      <template v-if="edited.roles.includes('superintendent')">
        <label for="person-venues">Venues</label>
        <ElSelect
          id="person-venues"
          v-model="edited.venues"
          multiple
          filterable
          placeholder="All that this person looks after"
          aria-label="Venues"
        >
          <ElOption
            v-for="venue in venueList"
            :key="venue.id"
            :value="venue.id"
            :label="venue.title"
          />
        </ElSelect>
      </template>
      <p
        v-if="edited.id"
        class="soft small"
      >
        A change of rights holds at once: the person signs in again.
      </p>
      <template #footer>
        <ElButton @click="edited = null">
          Not now
        </ElButton>
        <ElButton
          type="primary"
          :loading="busy"
          :disabled="!edited.name.trim() || !edited.signInName.trim() || edited.roles.length === 0"
          @click="save"
        >
          {{ edited.id ? 'Save' : 'Make the link' }}
        </ElButton>
      </template>
    </ElDialog>
  </div>
</template>

<style scoped>
.sheet-row { flex: 1; }
.body { padding-top: 20px !important; }
.beside { padding-top: 24px !important; padding-bottom: 32px !important; }
.beside h2 { margin-top: 20px; }
.beside h2:first-child { margin-top: 0; }
.beside :deep(.el-checkbox) { display: flex; margin: 0; }
.wide { overflow-x: auto; }
.left td { color: var(--ink-soft); }
.presses { display: flex; flex-wrap: wrap; gap: 2px 14px; min-width: 170px; }
.beside p { margin: 4px 0 8px; }
.link { margin-bottom: 16px; display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.link p { width: 100%; }
code { background: var(--sheet); border: 1px solid var(--line-strong); padding: 4px 8px; overflow-wrap: anywhere; }
label, legend { display: block; font-weight: 600; margin: 12px 0 4px; padding: 0; }
fieldset { border: 0; margin: 0; padding: 0; }
</style>
