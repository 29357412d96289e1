package org.sobercompass.core.facts;

/**
 * One subject as a reader hands it over.
 *
 * @param kind account, group or organizational unit
 * @param id the immutable id inside the source, or the canonical DN
 * @param dn the DN as written
 * @param dnForm the canonical form of the DN, equal for equal DNs
 * @param login what is typed at sign-in; for a group its short name
 * @param display the name for people
 * @param mail the mail address, or empty
 * @param flags of {@link Facts#DISABLED} and its neighbours
 * @param expires epoch second at which the account ends, or {@link Facts#NEVER}
 */
public record SubjectRow(
    SubjectKind kind,
    String id,
    String dn,
    String dnForm,
    String login,
    String display,
    String mail,
    int flags,
    long expires) {}
