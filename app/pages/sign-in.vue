<script setup lang="ts">
definePageMeta({ layout: 'plain' })
useHead({ title: titled(say('entry.signIn')) })
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const signInName = ref('')
const password = ref('')
const { busy, refusal, send } = useSubmission()

const submit = () => send(async () => {
  await session.signIn(signInName.value, password.value)
  const then = typeof route.query.then === 'string' && /^\/(?!\/)/.test(route.query.then) ? route.query.then : '/'
  await router.push(then)
})
</script>

<template>
  <form
    class="form"
    @submit.prevent="submit"
  >
    <h1>{{ say('entry.signInToTheRegistrationOffice') }}</h1>
    <label for="name">{{ say('entry.signInName') }}</label>
    <ElInput
      id="name"
      v-model="signInName"
      name="name"
      autocomplete="username"
      autofocus
    />
    <label for="password">{{ say('entry.password') }}</label>
    <ElInput
      id="password"
      v-model="password"
      name="password"
      type="password"
      autocomplete="current-password"
      show-password
    />
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <ElButton
      type="primary"
      native-type="submit"
      :loading="busy"
      :disabled="!signInName || !password"
    >
      {{ say('entry.signIn') }}
    </ElButton>
    <p class="soft small">
      {{ say('entry.onlyStaffSignInHereTo') }} <NuxtLink to="/check">{{ say('entry.checkACard') }}</NuxtLink>. <a href="/examinations">{{ say('examinations.examinations') }}</a>
    </p>
  </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 8px; max-width: 400px; margin: 24px auto; }
h1 { margin-bottom: 12px; }
label { font-weight: 600; margin-top: 8px; }
.el-button { margin-top: 16px; height: 42px; }
p { margin-top: 12px; }
</style>
