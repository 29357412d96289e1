/**
 * The reference: memberships, rights, holdings and redundancy written as directly as the rules
 * read, without any speed, and small random organizations to hold the real ones against it.
 */
package org.sobercompass.core.reference;
