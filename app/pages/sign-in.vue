<script setup lang="ts">
definePageMeta({ layout: 'plain' })
useHead({ title: titled(say('entry.signIn')) })
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const signInName = ref('')
const password = ref('')
const code = ref('')
/** The password was right, and a second factor is asked for besides. */
const codeWanted = ref(false)
const codeField = useTemplateRef<{ focus: () => void }>('codeField')
const { busy, refusal, send } = useSubmission()

const submit = () =>
  send(async () => {
    try {
      await session.signIn(signInName.value, password.value, code.value)
    } catch (error) {
      if (problemCode(error) === 'session.factor-wanted' && !codeWanted.value) {
        codeWanted.value = true
        await nextTick()
        codeField.value?.focus()
        return
      }
      throw error
    }
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
    <template v-if="codeWanted">
      <label for="code">{{ say('entry.codeOfTheSecondFactor') }}</label>
      <ElInput
        id="code"
        ref="codeField"
        v-model="code"
        name="code"
        inputmode="numeric"
        autocomplete="one-time-code"
        maxlength="40"
      />
      <p class="soft small note">
        {{ say('entry.sixDigitsOrARecoveryCode') }}
      </p>
    </template>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <ElButton
      type="primary"
      native-type="submit"
      :loading="busy"
      :disabled="!signInName || !password || (codeWanted && !code)"
    >
      {{ say('entry.signIn') }}
    </ElButton>
    <p class="soft small">
      {{ say('entry.onlyStaffSignInHereTo') }} <NuxtLink to="/check">{{ say('entry.checkACard') }}</NuxtLink>. <a href="/examinations">{{ say('own.examinations') }}</a>
    </p>
  </form>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 8px; max-width: 400px; margin: 24px auto; }
h1 { margin-bottom: 12px; }
label { font-weight: 600; margin-top: 8px; }
.el-button { margin-top: 16px; height: 42px; }
p { margin-top: 12px; }
.note { margin-top: 0; }
</style>
