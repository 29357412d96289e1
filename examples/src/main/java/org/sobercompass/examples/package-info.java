/** Small programs that use the public API as a user's own program would; run by tests. */
@NullMarked
package org.sobercompass.examples;

import org.jspecify.annotations.NullMarked;
