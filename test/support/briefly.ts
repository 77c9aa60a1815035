import fc from 'fast-check';

// For runs that repeat every test a thousand times: a property stops looking after a while, unharmed.
// One that is stopped before its first look counts as failed, so a slow machine is given its time too.
fc.configureGlobal({
  ...fc.readConfigureGlobal(),
  interruptAfterTimeLimit: 900,
  markInterruptAsFailure: false,
});
