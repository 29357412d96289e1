/**
 * Users and groups by SCIM 2.0 (RFC 7643, RFC 7644).
 *
 * <p>In: JSON from a file, or a service over HTTP with paging and a bearer token. Out: facts, and
 * JSON lines for a survey; changes of members and users as PATCH requests. Promises: values are
 * taken as they are; passwords are left out; a service that stops half-way is a failure, not an
 * end.
 */
@NullMarked
package org.sobercompass.sources.scim;

import org.jspecify.annotations.NullMarked;
