<script setup lang="ts">
import type { StaffRole } from '~~/core/access/principal'
import { staffRoles } from '~~/core/access/principal'
import { secondPersonActs } from '~~/core/notice/schema'
import type { ActId } from '~~/core/application/acts/rule'
import type { LinkMade, OfficeSettings, StaffInput, StaffView } from '~~/shared/people'

const { roleWords } = useWords().people
const { actButtons } = useWords().acts

/** The people of the office: who may do what, invitations, leaving, and what the office has decided for itself. */
useHead({ title: titled(say('people.people')) })
const cycle = useCycleStore()
const staff = shallowRef<StaffView[]>([])
const settings = ref<OfficeSettings>({ keepMonths: 12, factorRoles: [], withoutSecondPerson: [], telephones: { country: '', ranges: [] } })
const edited = ref<(StaffInput & { id: string | null }) | null>(null)
const link = shallowRef<{ name: string, address: string, until: string } | null>(null)
const busy = ref(false)
const alwaysSecond = ['take-back-refusal', 'reopen', 'give-access', 'release-erasing'] as const
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
const venueList = computed(() =>
  cycle.notice?.cities.flatMap(c => c.venues.map(v => ({ id: v.id, title: `${v.title}, ${c.title}` }))) ?? []
)
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
        <table class="plain-table">
          <thead><tr><th>{{ say('people.name') }}</th><th>{{ say('people.signsInAs') }}</th><th>{{ say('people.roles') }}</th><th>{{ say('people.state') }}</th><th>{{ say('people.secondFactor') }}</th><th>{{ say('people.lastSeen') }}</th><th><span class="visually-hidden">{{ say('people.acts') }}</span></th></tr></thead>
          <tbody>
            <tr
              v-for="one in staff"
              :key="one.id"
              :class="{ left: !one.active }"
            >
              <td><b>{{ one.name }}</b> <span v-if="one.isOwn">{{ say('people.you') }}</span></td>
              <td>{{ one.signInName }}</td>
              <td>{{ one.roles.map(role => roleWords[role].title).join(', ') }}</td>
              <td class="nowrap">
                {{ state(one) }}
              </td>
              <td>{{ one.hasFactor ? say('people.setUp') : '–' }}</td>
              <td class="soft nowrap">
                {{ when(one.lastSeenAt) }}
              </td>
              <td>
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
              </td>
            </tr>
          </tbody>
        </table>
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
    <ElDialog
      v-if="edited"
      :model-value="true"
      :title="edited.id ? say('people.changeAnAccount') : say('people.inviteSomebody')"
      width="min(620px, 94vw)"
      @close="edited = null"
    >
      <label for="person-name">{{ say('people.nameLabel') }}</label>
      <ElInput
        id="person-name"
        v-model="edited.name"
        autofocus
        :maxlength="100"
      />
      <label for="person-sign-in">{{ say('people.signsInAsLabel') }}</label>
      <ElInput
        id="person-sign-in"
        v-model="edited.signInName"
        :maxlength="40"
      />
      <fieldset>
        <legend>{{ say('people.rolesLabel') }}</legend>
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
        <label for="person-venues">{{ say('people.venues') }}</label>
        <ElSelect
          id="person-venues"
          v-model="edited.venues"
          multiple
          filterable
          :placeholder="say('people.allThatThisPersonLooksAfter')"
          :aria-label="say('people.venues')"
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
        {{ say('people.aChangeOfRightsHoldsAt') }}
      </p>
      <template #footer>
        <ElButton @click="edited = null">
          {{ say('people.notNow') }}
        </ElButton>
        <ElButton
          type="primary"
          :loading="busy"
          :disabled="!edited.name.trim() || !edited.signInName.trim() || edited.roles.length === 0"
          @click="save"
        >
          {{ edited.id ? say('people.save') : say('people.makeTheLink') }}
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
