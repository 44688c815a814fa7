<script setup lang="ts">
import type { Acceptance, ReviewRow } from '~~/shared/eligibility'

/** From when an amendment holds, and what becomes of fees assessed before: asked once it is seen what it does. */
const { review } = defineProps<{ review: ReviewRow, busy: boolean, refusal: string }>()
const emit = defineEmits<{ accept: [acceptance: Acceptance] }>()
const shown = defineModel<boolean>({ required: true })
const cycle = useCycleStore()
const [when, moment, fees] = [ref<'at once' | 'moment'>('at once'), ref(''), ref<'kept' | 'anew'>('kept')]
const changed = computed(() => review.totals.fees.more + review.totals.fees.less)
const isWhole = computed(() => when.value === 'at once' || !Number.isNaN(Date.parse(moment.value)))
const accept = () => emit('accept', { fees: fees.value, ...(when.value === 'moment' ? { from: moment.value } : {}) })
</script>

<template>
  <ElDialog
    v-model="shown"
    :title="say('notice.reviewAllJudgedAgain', { serial: review.serial, hasVersion: 'false', version: review.version })"
    width="min(600px, 94vw)"
  >
    <fieldset>
      <legend>{{ say('notice.holdsWhen') }}</legend>
      <ElRadioGroup
        v-model="when"
        :aria-label="say('notice.holdsWhen')"
      >
        <ElRadio value="at once">
          {{ say('notice.atOnce') }}
        </ElRadio>
        <ElRadio value="moment">
          {{ say('notice.atAMoment') }}
        </ElRadio>
      </ElRadioGroup>
      <template v-if="when === 'moment' && cycle.notice">
        <label
          class="moment"
          for="amendment-holds-from"
        >{{ say('notice.momentOfAmendment') }}</label>
        <HouseMomentField
          v-model="moment"
          input-id="amendment-holds-from"
          :label="say('notice.momentOfAmendment')"
          :zone="cycle.notice.body.zone"
        />
        <p class="soft small">
          {{ say('notice.momentHelp') }}
        </p>
      </template>
    </fieldset>
    <fieldset v-if="changed > 0">
      <legend>{{ say('notice.feesOfThoseIn') }}</legend>
      <ElRadioGroup
        v-model="fees"
        :aria-label="say('notice.feesOfThoseIn')"
      >
        <ElRadio value="kept">
          {{ say('notice.feesStay') }}
        </ElRadio>
        <ElRadio value="anew">
          {{ say('notice.feesAssessedAnew', { n: changed }) }}
        </ElRadio>
      </ElRadioGroup>
      <p
        v-if="fees === 'anew'"
        class="soft small"
      >
        {{ say('notice.feesAnewHelp') }}
      </p>
    </fieldset>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="shown = false">
        {{ say('edit.keepLooking') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!isWhole"
        :loading="busy"
        @click="accept"
      >
        {{ say('notice.acceptThis') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0 0 18px; }
legend, .moment { display: block; font-weight: 600; padding: 0 0 4px; }
</style>
