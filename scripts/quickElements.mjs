import React from 'react';

const inside = React.__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE;

/**
 * React notes, for up to ten thousand elements a second, where in the code each was made, to tell it in a warning. That is a
 * sixth of the time of the tests of screens: here it believes that it has done so already.
 */
Object.defineProperty(inside, 'recentlyCreatedOwnerStacks', { get: () => Infinity, set() {} });
