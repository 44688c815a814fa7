<script setup lang="ts">
import { staffRoles } from '~~/core/access/principal'
import type { StaffInput } from '~~/shared/people'

/** Somebody of the office, invited or changed: name, roles, and the venues that a superintendent looks after. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ save: [], close: [] }>()
const edited = defineModel<StaffInput & { id: string | null }>({ required: true })
const cycle = useCycleStore()
const { roleWords } = useWords().people
const venueList = computed(() =>
  cycle.notice?.cities.flatMap(c => c.venues.map(v => ({ id: v.id, title: `${v.title}, ${c.title}` }))) ?? []
)
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="edited.id ? say('people.changeAnAccount') : say('people.inviteSomebody')"
    width="min(620px, 94vw)"
    @close="emit('close')"
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
            :label="roleWords[role].title"
          /> <span class="soft small">{{ roleWords[role].says }}</span>
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
      <ElButton @click="emit('close')">
        {{ say('people.notNow') }}
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="!edited.name.trim() || !edited.signInName.trim() || edited.roles.length === 0"
        @click="emit('save')"
      >
        {{ edited.id ? say('people.save') : say('people.makeTheLink') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
label[for], legend { display: block; font-weight: 600; margin: 12px 0 4px; padding: 0; }
legend { margin-top: 16px; }
fieldset { border: 0; margin: 0; padding: 0; }
fieldset :deep(.el-checkbox) { margin-right: 10px; }
</style>
