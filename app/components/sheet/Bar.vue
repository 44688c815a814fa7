<script setup lang="ts">
import { spellUntil } from '~~/core/calendar/zone'
import type { Relation } from '~~/core/access/permissions'
import type { Finding } from '~~/core/finding/finding'
import type { Sheet } from '~/composables/sheet'

/** The bar at the foot of a sheet: whether all is saved, how long there is, what is missing, and the next step. */
const props = defineProps<{ sheet: Sheet, own?: boolean, feeFirst: boolean, gaps: Finding[], missing: { id: string, title: string }[] }>()
const emit = defineEmits<{ eager: [], declare: [] }>()
const router = useRouter()
const session = useSessionStore()
const cycle = useCycleStore()
const now = useNow()
const relations: Relation[] = props.own ? ['own application'] : []
const { dossier, state, savedText, trouble } = props.sheet
const isListed = ref(false)
/** Of the form; the office has its clock above. */
const left = computed(() =>
  props.own && dossier.value?.tracks.form === 'drafting' && cycle.notice ? spellUntil(cycle.notice.keyDates.closes, now.value) : ''
)

/** Goes to something that is missing, and says so of everything from now on. */
function go(id = props.missing[0]?.id ?? '') {
  emit('eager')
  isListed.value = false
  nextTick(() => {
    const row = document.getElementById(`row-${id}`)
    row?.scrollIntoView({ block: 'center' })
    row?.querySelector<HTMLElement>('input, button, select, textarea')?.focus()
  })
}
</script>

<template>
  <div
    v-if="dossier"
    class="action-bar"
  >
    <LazySheetGaps
      v-if="isListed && missing.length > 0"
      :gaps="missing"
      @go="go"
    />
    <span
      v-if="sheet.editable.value"
      :class="{ attention: state === 'kept here' || state === 'conflict' }"
    ><b>{{ savedText }}</b> <span
      v-if="trouble"
      class="small"
    >{{ trouble }}</span></span>
    <span
      v-if="left"
      class="soft small"
    >{{ say('sheet.timeLeft', { left }) }}</span>
    <template v-if="sheet.writable.value">
      <button
        v-if="missing.length > 0"
        class="gap-link push"
        :aria-expanded="missing.length > 1 ? isListed : undefined"
        @click="missing.length > 1 ? isListed = !isListed : go()"
      >
        {{ say('sheet.stillMissingOrWrong', { gaps: missing.length }) }}
      </button>
      <LazyKeyingFinish
        v-if="dossier.keying && dossier.keying.state !== 'agreed'"
        :sheet="sheet"
      />
      <LazySheetFeeFirst
        v-else-if="feeFirst"
        :dossier="dossier"
        :own="own"
        :gaps="gaps"
        :sheet="sheet"
      />
      <HouseButton
        v-else
        primary
        :class="{ push: missing.length === 0 }"
        :disabled="missing.length > 0"
        @click="emit('declare')"
      >
        {{ dossier.tracks.form === 'correcting' ? say('sheet.submitTheCorrection') : say('sheet.submit') }}
      </HouseButton>
    </template>
    <LazySheetPayment
      v-else-if="session.may('fees.collect', relations) && dossier.tracks.form !== 'withdrawn' && dossier.tracks.form !== 'lapsed' && (dossier.tracks.fee === 'due' || dossier.tracks.fee === 'confirming')"
      :dossier="dossier"
      :own="own"
      :refresh="sheet.refresh"
    />
    <template v-else>
      <CorrectionLink
        :dossier="dossier"
        :own="own"
      />
      <span class="soft">{{ dossier.hasTextsFirst ? '' : sheet.editable.value ? say('sheet.readOnly') : say('sheet.answersAndImagesAreFrozenA') }}</span>
      <HouseButton
        v-if="dossier.headline === 'in scrutiny' && session.may('scrutiny.decide')"
        class="push"
        primary
        @click="router.push(`/scrutiny/${dossier.id}`)"
      >
        {{ say('sheet.toScrutiny') }}
      </HouseButton>
      <HouseButton
        v-if="dossier.headline === 'refused'"
        class="push"
        :href="`/api/applications/${dossier.id}/order`"
      >
        {{ say('sheet.openTheOrderOfRefusal') }}
      </HouseButton>
      <HouseButton
        v-if="dossier.card && !dossier.card.voidAt && session.may('cards.read', relations)"
        class="push"
        primary
        :href="`/api/applications/${dossier.id}/card`"
      >
        {{ say('sheet.openTheAdmitCard') }}
      </HouseButton>
    </template>
  </div>
</template>

<style scoped>
.gap-link {
  font: inherit; color: var(--attention); background: none; border: 0; text-decoration: underline; text-underline-offset: 3px;
  cursor: pointer; padding: 6px;
}
</style>
