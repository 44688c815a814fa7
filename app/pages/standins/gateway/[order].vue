<script setup lang="ts">
import { spellAmount } from '~~/core/fees/assess'

/** The simulated gateway's own page, as if it belonged to a company elsewhere. */
definePageMeta({ layout: 'plain' })
useHead({ title: say('gateway.simulatedPaymentGateway') })
interface Order { id: string, amount: number, currency: string, description: string, returnTo: string, state: 'open' | 'charged' | 'declined' }
const route = useRoute()
const session = useSessionStore()
const order = shallowRef<Order | null>(null)
const busy = ref(false)
const silent = ref(false)
const path = `/api/standins/gateway/${encodeURIComponent(String(route.params.order))}`
const acts = [
  { act: 'pay', title: say('gateway.pay'), text: say('gateway.theGatewayChargesAndTellsThe') },
  { act: 'twice', title: say('gateway.payToldTwice'), text: say('gateway.theGatewayTellsTwice') },
  { act: 'decline', title: say('gateway.decline'), text: say('gateway.theBankSaysNo') },
  { act: 'silent', title: say('gateway.payThenSilence'), text: say('gateway.theGatewayChargesButItsMessage') },
] as const
const { failure } = useLoaded(async () => {
  order.value = await callApi<Order>(path)
})
async function act(name: string) {
  if (busy.value) return
  busy.value = true
  silent.value = name === 'silent'
  await attempt(async () => { order.value = await callApi<Order>(path, { method: 'POST', body: { act: name } }) })
  busy.value = false
}
</script>

<template>
  <div>
    <p class="note is-attention">
      {{ say('gateway.aSimulatedGatewayThatShipsWith') }}
    </p>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="order">
      <h1>{{ spellAmount(order.amount, { code: order.currency, exponent: 2 }) }}</h1>
      <p class="soft">
        {{ say('gateway.toTheIlmaraMaritimeExaminationsBoard', { description: order.description, id: order.id }) }}
      </p>
      <ul v-if="order.state === 'open'">
        <li
          v-for="one in acts"
          :key="one.act"
        >
          <ElButton
            :type="one.act === 'pay' ? 'primary' : 'default'"
            :loading="busy"
            @click="act(one.act)"
          >
            {{ one.title }}
          </ElButton>
          <span class="soft">{{ one.text }}</span>
        </li>
      </ul>
      <template v-else>
        <p :class="order.state === 'charged' ? 'settled' : 'refusal'">
          <b>{{ order.state === 'charged' ? say('gateway.charged') : say('gateway.declined') }}</b>{{ silent ? say('gateway.andTheOfficeWasNotTold') : '' }}
        </p>
        <p
          v-if="order.state === 'charged' && !silent && session.may('fees.reconcile')"
          class="later"
        >
          <ElButton
            :loading="busy"
            @click="act('back')"
          >
            {{ say('gateway.takeBack') }}
          </ElButton>
          <span class="soft">{{ say('gateway.takeBackHelp') }}</span>
        </p>
      </template>
      <p class="back">
        <NuxtLink :to="order.returnTo">{{ say('gateway.backToTheApplication') }}</NuxtLink>
      </p>
    </template>
  </div>
</template>

<style scoped>
h1 { margin-top: 24px; font-size: 32px; }
ul { list-style: none; padding: 0; margin: 20px 0; }
li { display: grid; grid-template-columns: 180px minmax(0, 1fr); gap: 16px; align-items: center; padding: 8px 0; border-bottom: 1px solid var(--line); }
.back, .later { margin-top: 20px; }
@media (max-width: 600px) { li { grid-template-columns: minmax(0, 1fr); gap: 4px; } }
</style>
