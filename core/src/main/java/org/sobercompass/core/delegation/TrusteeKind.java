package org.sobercompass.core.delegation;

/** What sort of holder a trustee of a directory's list is. */
public enum TrusteeKind {
  PERSON("single account", "single accounts"),
  GROUP("group", "groups"),
  BROAD("very many", "very many accounts"),
  NOBODY("unresolved trustee", "unresolved trustees"),
  SYSTEM("the directory itself", "the directory itself");

  private final String words;
  private final String many;

  TrusteeKind(String words, String many) {
    this.words = words;
    this.many = many;
  }

  /** In words. */
  public String words() {
    return words;
  }

  /** In words, of several. */
  public String many() {
    return many;
  }
}
