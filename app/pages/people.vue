<script setup lang="ts">
import { staffRoles } from '~~/core/access/principal'
import { secondPersonActs } from '~~/core/notice/schema'
import type { ActId } from '~~/core/application/acts/rule'
import type { LinkMade, OfficeSettings, StaffInput, StaffView } from '~~/shared/people'

const { roleWords } = useWords().people
const { actButtons } = useWords().acts

/** The people of the office: who may do what, invitations, leaving, and what the office has decided for itself. */
useHead({ title: titled(say('people.people')) })
const session = useSessionStore()
const staff = shallowRef<StaffView[]>([])
const settings = ref<OfficeSettings>({ keepMonths: 12, factorRoles: [], withoutSecondPerson: [], telephones: { country: '', ranges: [] } })
const edited = ref<(StaffInput & { id: string | null }) | null>(null)
const link = shallowRef<{ name: string, address: string, until: string } | null>(null)
const busy = ref(false)
const alwaysSecond = ['take-back-refusal', 'reopen', 'give-access', 'release-data', 'release-erasing'] as const
const secondActs = computed(() => [...alwaysSecond, ...secondPersonActs])
const actTitle = (act: string) =>
  act === 'publish-run'
    ? say('people.publishARun')
    : act === 'change-rooms'
    ? say('people.changeRooms')
    : act === 'release-erasing'
    ? say('people.releaseErasing')
    : actButtons[act as ActId]?.press ?? act

const { failure, reload: load } = useLoaded(async () => {
  ;[staff.value, settings.value] = await Promise.all([callApi<StaffView[]>('/api/staff'), callApi<OfficeSettings>('/api/office')])
})
function show(name: string, made: LinkMade) {
  link.value = { name, address: new URL(made.path, window.location.origin).href, until: made.expiresAt }
}
const editedOf = ({ id, signInName, name, roles, venues }: StaffView) => ({ id, signInName, name, roles: [...roles], venues: [...venues] })

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
const setActive = (one: StaffView, active: boolean) =>
  attempt(async () => {
    staff.value = await callApi<StaffView[]>(`/api/staff/${one.id}/active`, { method: 'PUT', body: { active } })
  })
const keepSettings = () =>
  attempt(async () => {
    settings.value = await callApi<OfficeSettings>('/api/office', { method: 'PUT', body: settings.value })
  })
async function copy() {
  if (link.value && await attempt(() => navigator.clipboard.writeText(link.value?.address ?? ''))) tell(say('people.copied'), 'success')
}
const state = (one: StaffView) =>
  !one.active
    ? say('people.left')
    : one.hasPassword
    ? say('people.active')
    : one.hasLink
    ? say('people.invited')
    : say('people.invitationEnded')
const when = (at: string | null) =>
  at ? new Date(at).toLocaleString(useWords().locale, { dateStyle: 'medium', timeStyle: 'short' }) : say('people.never')
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <div class="page-head">
        <h1>{{ say('people.peopleOfTheOffice') }}</h1>
        <div class="actions">
          <ElButton
            v-if="session.may('staff.manage')"
            type="primary"
            @click="edited = { id: null, signInName: '', name: '', roles: [], venues: [] }"
          >
            {{ say('people.inviteSomebody') }}
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
        <p><b>{{ say('people.oneTimeLinkFor', { name: link.name }) }}</b> {{ say('people.giveItToThemYourselfIt', { until: when(link.until) }) }}</p>
        <code>{{ link.address }}</code>
        <ElButton
          size="small"
          @click="copy"
        >
          {{ say('people.copy') }}
        </ElButton>
        <ElButton
          size="small"
          @click="link = null"
        >
          {{ say('people.done') }}
        </ElButton>
      </div>
      <div class="wide">
        <HouseTable
          :columns="[
            { key: 'name', title: say('people.name') },
            { key: 'signsInAs', title: say('people.signsInAs'), text: one => one.signInName },
            { key: 'roles', title: say('people.roles'), text: one => one.roles.map(role => roleWords[role].title).join(', ') },
            { key: 'state', title: say('people.state'), kind: 'line', text: state },
            { key: 'factor', title: say('people.secondFactor'), text: one => one.hasFactor ? say('people.setUp') : '–' },
            { key: 'seen', title: say('people.lastSeen'), kind: 'line', look: 'soft', text: one => when(one.lastSeenAt) },
            { key: 'acts', title: say('people.acts'), isQuiet: true },
          ]"
          :rows="staff"
          :row-key="one => one.id"
          :row-look="one => one.active ? '' : 'left'"
        >
          <template #name="{ row: one }">
            <b>{{ one.name }}</b> <span v-if="one.isOwn">{{ say('people.you') }}</span>
          </template>
          <template #acts="{ row: one }">
            <div class="presses">
              <button
                class="press"
                @click="edited = editedOf(one)"
              >
                {{ say('people.change') }}
              </button>
              <button
                v-if="one.active && !one.isOwn"
                class="press"
                @click="newLink(one)"
              >
                {{ one.hasPassword ? say('people.linkForANewPassword') : say('people.newLink') }}
              </button>
              <button
                v-if="!one.isOwn"
                class="press"
                @click="setActive(one, !one.active)"
              >
                {{ one.active ? say('people.hasLeft') : say('people.isBack') }}
              </button>
            </div>
          </template>
        </HouseTable>
      </div>
      <p class="soft small">
        {{ say('people.whoHasLeftSignsInNo') }}
      </p>
    </div>
    <div class="beside">
      <h2>{{ say('people.secondFactorHeading') }}</h2>
      <p class="soft small">
        {{ say('people.rolesThatSignInWithA') }}
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
      <PeopleTelephones
        v-model="settings.telephones"
        @keep="keepSettings"
      />
      <PeopleKeeping
        v-model="settings.keepMonths"
        @keep="keepSettings"
      />
      <h2>{{ say('people.withoutASecondPerson') }}</h2>
      <p class="soft small">
        {{ say('people.someActsWaitForASecond') }}
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
    <PeopleDialog
      v-if="edited"
      v-model="edited"
      :busy="busy"
      @save="save"
      @close="edited = null"
    />
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
:deep(.left td) { color: var(--ink-soft); }
.presses { display: flex; flex-wrap: wrap; gap: 2px 14px; min-width: 170px; }
.beside p { margin: 4px 0 8px; }
.link { margin-bottom: 16px; display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.link p { width: 100%; }
code { background: var(--sheet); border: 1px solid var(--line-strong); padding: 4px 8px; overflow-wrap: anywhere; }
</style>
