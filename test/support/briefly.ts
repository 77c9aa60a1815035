import fc from 'fast-check';

// For runs that repeat every test a thousand times: a property stops looking after a while, unharmed.
fc.configureGlobal({ interruptAfterTimeLimit: 300, markInterruptAsFailure: false });
