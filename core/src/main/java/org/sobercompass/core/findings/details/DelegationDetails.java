package org.sobercompass.core.findings.details;

/** About what was delegated in the lists of a directory's objects. */
public sealed interface DelegationDetails extends Details {
  /**
   * The line that gives most of several for one trustee.
   *
   * @param trustee by name
   * @param sid the trustee as it is written
   * @param may what it makes possible
   * @param object the object on whose list it is; empty for the whole directory
   * @param directory its directory
   * @param weight 0 for little, 1 for much, 2 for the object itself
   * @param below how many objects are below
   */
  record Given(
      String trustee,
      String sid,
      String may,
      String object,
      String directory,
      int weight,
      int below) {}

  /** Something delegated to a person; {@code objects} have such lines. */
  record ToPerson(Given most, int objects) implements DelegationDetails {}

  /** Something delegated to everyone, with how many accounts that reaches. */
  record ToEveryone(Given most, int objects, int reached) implements DelegationDetails {}

  /** Something delegated to very many of the accounts of a directory. */
  record ToMany(Given most, int objects, int inside, int accounts) implements DelegationDetails {}

  /** Something delegated to an empty group. */
  record ToEmptyGroup(Given most, int objects) implements DelegationDetails {}

  /** Something delegated to somebody who is in no directory. */
  record ToNobody(Given most, int objects) implements DelegationDetails {}

  /** Entries that claim to be inherited, and that nothing above hands on. */
  record Claimed(Given most, int entries) implements DelegationDetails {}
}
