/**
 * What is promised of every kind of system, held against a plain program for each kind. A new kind
 * extends {@link org.sobercompass.core.contract.SystemContract} with a sample of its own.
 */
@org.jspecify.annotations.NullMarked
package org.sobercompass.core.contract;
