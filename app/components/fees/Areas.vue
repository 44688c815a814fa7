<script setup lang="ts">
/** The rooms of the fees: the ledger, statements, whose money a line is, payouts of the gateway, the day's closing. */
const session = useSessionStore()
const route = useRoute()
const rooms = computed(() => [
  { to: '/fees', title: say('bank.overview') },
  ...(session.may('bank.read')
    ? [{ to: '/fees/statements', title: say('bank.statements') }, { to: '/fees/matching', title: say('bank.matching') }, {
      to: '/fees/bills',
      title: say('bank.bills'),
    }, { to: '/fees/slips', title: say('bank.slips') }, { to: '/fees/payouts', title: say('bank.payouts') }, {
      to: '/fees/refunds',
      title: say('bank.refunds'),
    }, { to: '/fees/closing', title: say('bank.closing') }]
    : []),
])
</script>

<template>
  <HouseRooms
    :rooms="rooms"
    :label="say('ledger.fees')"
    :here="route.path"
  />
</template>
