<script setup lang="ts">
import { keyingStates, type KeyingState } from '~~/core/application/keying'
import type { KeyingList } from '~~/shared/keying'

/** Paper forms: a new one is begun, the next is keyed a second time, and those that differ are compared with the paper. */
useHead({ title: titled(say('keying.title')) })
const cycle = useCycleStore()
const spelling = useSpelling()
const list = shallowRef<KeyingList | null>(null)
const chosen = ref<KeyingState>('second')
const busy = ref(false)
/** Forms come in piles: the moment of the last one stands for the next. */
const receivedAt = useState('paper-received-at', () => '')
const reference = ref('')
const { busy: registering, standing, register } = useRegister()
const views = computed(() =>
  keyingStates.map(state => ({ id: state, title: say('keying.stateCount', { state, n: list.value?.counts[state] ?? 0 }) }))
)
const paper = computed(() => ({ receivedAt: receivedAt.value, reference: reference.value.trim() }))
const isWhole = computed(() => !Number.isNaN(Date.parse(receivedAt.value)) && receivedAt.value.endsWith('Z'))
const figures = computed(() => list.value?.figures && list.value.figures.compared > 0 ? list.value.figures : null)

async function load(after?: string) {
  const page = await callApi<KeyingList>(cycle.path('keying'), { query: { state: chosen.value, after } })
  list.value = after && list.value ? { ...page, figures: list.value.figures, rows: [...list.value.rows, ...page.rows] } : page
}
async function next() {
  busy.value = true
  await attempt(keyNext)
  busy.value = false
}
const { failure, reload } = useLoaded(() => load())
watch(chosen, () => attempt(() => load()))
watch(() => cycle.code, () => {
  void reload()
})
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ say('keying.title') }}</h1>
    </div>
    <p class="soft what">
      {{ say('keying.what') }}
    </p>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="list && cycle.notice">
      <div class="ways">
        <form
          class="way"
          @submit.prevent="isWhole && register({}, paper)"
        >
          <h2>{{ say('keying.register') }}</h2>
          <label for="paper-received">{{ say('keying.receivedAt') }}</label>
          <HouseMomentField
            v-model="receivedAt"
            input-id="paper-received"
            :label="say('keying.receivedAt')"
            :zone="cycle.notice.body.zone"
          />
          <label for="paper-reference">{{ say('keying.reference') }} <span class="soft">{{ say('sheet.mayStayBlank') }}</span></label>
          <input
            id="paper-reference"
            v-model="reference"
            class="field"
            maxlength="80"
            autocomplete="off"
          >
          <p class="soft small">
            {{ say('keying.referenceHelp') }}
          </p>
          <HouseButton
            primary
            type="submit"
            :busy="registering"
            :disabled="!isWhole"
          >
            {{ say('keying.begin') }}
          </HouseButton>
        </form>
        <div class="way">
          <h2>{{ say('keying.secondKeying') }}</h2>
          <p>{{ say('keying.nextHelp', { open: list.open }) }}</p>
          <HouseButton
            :primary="list.open > 0"
            :busy="busy"
            :disabled="list.open === 0"
            @click="next"
          >
            {{ say('keying.next') }}
          </HouseButton>
        </div>
        <div
          v-if="figures"
          class="way"
        >
          <h2>{{ say('keying.figures') }}</h2>
          <p>
            {{ say('keying.figuresLine', { compared: figures.compared, differing: figures.differing, rate: shareText(figures.differing / figures.compared) }) }}
          </p>
          <p v-if="figures.first + figures.second + figures.anew > 0">
            {{ say('keying.figuresKept', { first: figures.first, second: figures.second, anew: figures.anew }) }}
          </p>
          <p
            v-if="figures.often.length > 0"
            class="soft small"
          >
            {{ say('keying.figuresOften', { list: figures.often.map(one => say('keying.oftenOne', { item: spelling.item(one.question), n: one.n })).join(', ') }) }}
          </p>
        </div>
      </div>

      <HouseSegments
        v-model="chosen"
        :views="views"
        :label="say('keying.title')"
        class="states"
      />
      <p
        v-if="list.rows.length === 0"
        class="soft"
      >
        {{ say('keying.none') }}
      </p>
      <div
        v-else
        class="wide"
        tabindex="0"
        :aria-label="say('keying.title')"
      >
        <HouseTable
          :columns="[
            { key: 'form', title: say('keying.form') },
            { key: 'mark', title: say('keying.mark'), text: row => row.reference || '–' },
            { key: 'cameIn', title: say('keying.cameIn'), text: row => spelling.instant(row.receivedAt) },
            {
              key: 'first',
              title: say('keying.firstBy'),
              text: ({ first }) => first ? say('keying.byAt', { by: first.by, at: spelling.instant(first.at) }) : '–',
            },
            {
              key: 'second',
              title: say('keying.secondBy'),
              text: ({ second }) =>
                !second
                  ? '–'
                  : second.at
                    ? say('keying.byAt', { by: second.by, at: spelling.instant(second.at) })
                    : say('keying.since', { by: second.by }),
            },
            { key: 'go', title: say('keying.open'), isQuiet: true },
          ]"
          :rows="list.rows"
          :row-key="row => row.id"
        >
          <template #form="{ row }">
            <NuxtLink :to="`/intake/${row.id}`">
              {{ row.number }}
            </NuxtLink> {{ row.name }}
          </template>
          <template #go="{ row }">
            <NuxtLink
              v-if="chosen === 'differing'"
              :to="`/intake/keying/${row.id}`"
            >
              {{ say('keying.compare') }} <span class="attention">{{ say('keying.differences', { n: row.differing }) }}</span>
            </NuxtLink>
            <span
              v-else-if="chosen === 'second' && row.isOwnFirst"
              class="soft"
            >{{ say('keying.yoursFirst') }}</span>
            <NuxtLink
              v-else-if="chosen === 'second'"
              :to="`/intake/keying/${row.id}`"
            >
              {{ say('keying.keyIt') }}
            </NuxtLink>
            <NuxtLink
              v-else-if="chosen === 'agreed'"
              :to="`/intake/keying/${row.id}`"
            >
              {{ say('keying.open') }}
            </NuxtLink>
          </template>
        </HouseTable>
      </div>
      <HouseButton
        v-if="list.next"
        @click="attempt(() => load(list?.next ?? undefined))"
      >
        {{ say('keying.more') }}
      </HouseButton>
    </template>
    <ActDialog
      v-if="standing"
      :standing="standing"
      :subject="paper.reference"
      @act="permit => register(permit, paper)"
      @close="standing = null"
    />
  </div>
</template>

<style scoped>
.what { max-width: 760px; }
.ways { display: flex; flex-wrap: wrap; gap: 12px 48px; padding: 14px 0 24px; }
.way { flex: 1 1 280px; max-width: 400px; display: grid; gap: 6px; align-content: start; justify-items: start; }
.way h2 { margin: 0 0 2px; }
.way p { margin: 0; }
.way .field { width: 100%; max-width: 320px; }
.states { margin: 0 0 12px; display: flex; flex-wrap: wrap; }
.wide { overflow-x: auto; }
</style>
