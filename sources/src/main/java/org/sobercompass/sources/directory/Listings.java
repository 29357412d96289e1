package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Entry;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.facts.Via;

/** The attributes in which a group lists its members, and whether an entry hides them. */
public final class Listings {
  /** Those that the classes of RFC 4519 require. */
  static final Map<String, Via> REQUIRED = required();

  private Listings() {}

  private static Map<String, Via> required() {
    Map<String, Via> all = new LinkedHashMap<>();
    all.put("member", Via.MEMBER);
    all.put("uniquemember", Via.UNIQUE_MEMBER);
    return all;
  }

  /** Whether an entry hides any list of members. */
  public static boolean hidesMembers(Entry entry, Optional<DirectorySchema> schema) {
    return REQUIRED.keySet().stream().anyMatch(attribute -> hides(entry, attribute, schema));
  }

  /**
   * Whether an entry must list members and shows none, so that they were withheld from whoever read
   * it: by the schema, and for a class that none defines by RFC 4519 sections 3.5 and 3.6.
   *
   * @param attribute in lower case
   */
  static boolean hides(Entry entry, String attribute, Optional<DirectorySchema> schema) {
    String[] classes = entry.getObjectClassValues();
    if (classes == null || entry.hasAttribute(attribute)) {
      return false;
    }
    String usual = attribute.equals("member") ? "groupOfNames" : "groupOfUniqueNames";
    boolean byUse = schema.map(s -> !s.defines(usual)).orElse(true) && entry.hasObjectClass(usual);
    return byUse || schema.map(s -> s.required(List.of(classes)).contains(attribute)).orElse(false);
  }
}
