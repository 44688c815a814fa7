export const entry = {
  signIn: 'Sign in',
  signInToTheRegistrationOffice: 'Sign in to the registration office',
  signInName: 'Sign-in name',
  password: 'Password',
  codeOfTheSecondFactor: 'Code of your second factor',
  sixDigitsOrARecoveryCode: 'The six digits that your authenticator shows now, or one of your recovery codes.',
  signedInElsewhere:
    'You are signed in elsewhere, too: {count, plural, one {# other session} other {# other sessions}}. Under your account you see where, and end what is not yours.',
  onlyStaffSignInHereTo: 'Only staff sign in here. To see whether an admit card is genuine, nobody needs to:',
  checkACard: 'check a card',
  setYourPassword: 'Set your password',
  welcome: 'Welcome,',
  youWillSignInAs: '. You will sign in as',
  setItAndGoIn: 'Set it and go in',
  toTheSignIn: 'To the sign-in',
} as const
