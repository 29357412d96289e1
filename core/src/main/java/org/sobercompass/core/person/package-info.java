/**
 * Who is behind accounts: persons.
 *
 * <p>In: accounts with the values of linking attributes, and links by hand. Out: persons, each with
 * the reasons of its links, and what is ambiguous. Promises: nothing is guessed; a value that two
 * accounts of one directory share links nobody; a "not the same" by hand wins.
 */
@NullMarked
package org.sobercompass.core.person;

import org.jspecify.annotations.NullMarked;
