package org.sobercompass.core.delegation;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;

/**
 * What the identifiers in access control lists name: classes, attributes, sets of attributes,
 * extended rights and validated writes ([MS-ADTS] 3.1.1.2 and 5.1.3.2.1). Names compare without
 * case. Frozen by use; put everything in before asking. Thread-safe then.
 */
public final class DsNames {
  private final Map<String, ObjectClass> classes = new HashMap<>();
  private final Map<String, AttributeType> attributes = new HashMap<>();
  private final Map<String, ControlRight> rights = new HashMap<>();
  private final Map<UUID, String> words = new HashMap<>();
  private final Map<UUID, ObjectClass> classById = new HashMap<>();
  private final Map<UUID, AttributeType> attributeById = new HashMap<>();
  private final Map<UUID, ControlRight> rightById = new HashMap<>();
  private boolean whole;
  private boolean ownClasses;

  /**
   * A class.
   *
   * @param name its display name
   * @param id the identifier entries name it by
   * @param above the name of the class above it; empty at the top
   * @param byDefault what its objects get unless told otherwise, where that is known
   */
  public record ObjectClass(String name, UUID id, String above, Optional<Descriptor> byDefault) {}

  /**
   * An attribute.
   *
   * @param set the set it belongs to
   * @param confidential whether reading it needs an extended right too ([MS-ADTS] 3.1.1.4.4)
   * @param fixed why nobody can write it, whatever the lists say; empty where somebody may
   */
  public record AttributeType(
      String name, UUID id, Optional<UUID> set, boolean confidential, String fixed) {
    /** One that somebody may write. */
    public AttributeType(String name, UUID id, Optional<UUID> set, boolean confidential) {
      this(name, id, set, confidential, "");
    }
  }

  /**
   * A right that is no bit: an extended right, a validated write or a set of attributes.
   *
   * @param name the common name of its object
   * @param words what it is called, for people
   * @param id the identifier entries name it by
   * @param access the bits it goes with: extended right, validated write, or read and write
   */
  public record ControlRight(String name, String words, UUID id, int access) {}

  /** Adds a class; what is added later wins. */
  public void add(ObjectClass one) {
    classes.put(lower(one.name), one);
    classById.put(one.id, one);
    words.put(one.id, one.name);
  }

  /** Adds an attribute. */
  public void add(AttributeType one) {
    attributes.put(lower(one.name), one);
    attributeById.put(one.id, one);
    words.putIfAbsent(one.id, one.name);
  }

  /** Adds a right. */
  public void add(ControlRight one) {
    rights.put(lower(one.name), one);
    rightById.put(one.id, one);
    words.put(one.id, one.words);
  }

  /** Says that all names of the directory are here: what is not, is not there. */
  public void whole() {
    whole = true;
  }

  /** Says that the directory's own classes are here, with what each gives by default. */
  public void ownClasses() {
    ownClasses = true;
  }

  /** Whether the directory's own classes are here, with what each gives by default. */
  public boolean hasOwnClasses() {
    return ownClasses;
  }

  /** Whether all names of the directory are here. */
  public boolean isWhole() {
    return whole;
  }

  /** All rights, in no order. */
  public List<ControlRight> rights() {
    return List.copyOf(rights.values());
  }

  /** The class of this name. */
  public Optional<ObjectClass> objectClass(String name) {
    return Optional.ofNullable(classes.get(lower(name)));
  }

  /** The class with this identifier. */
  public Optional<ObjectClass> objectClass(UUID id) {
    return Optional.ofNullable(classById.get(id));
  }

  /** The attribute of this name. */
  public Optional<AttributeType> attribute(String name) {
    return Optional.ofNullable(attributes.get(lower(name)));
  }

  /** The attribute with this identifier. */
  public Optional<AttributeType> attribute(UUID id) {
    return Optional.ofNullable(attributeById.get(id));
  }

  /** The right of this name. */
  public Optional<ControlRight> right(String name) {
    return Optional.ofNullable(rights.get(lower(name)));
  }

  /** The right with this identifier. */
  public Optional<ControlRight> right(UUID id) {
    return Optional.ofNullable(rightById.get(id));
  }

  /** All attributes, in no order. */
  public List<AttributeType> attributes() {
    return List.copyOf(attributes.values());
  }

  /** All classes, in no order. */
  public List<ObjectClass> classes() {
    return List.copyOf(classes.values());
  }

  /** What an identifier names, in words; the identifier itself when nobody knows. */
  public String words(UUID id) {
    return words.getOrDefault(id, id.toString());
  }

  /**
   * The same where reading or writing is meant, or creating and deleting: then an attribute or a
   * class comes first, since a validated write may have the id of its attribute.
   */
  public String words(UUID id, int mask) {
    int properties = DsRights.READ_PROPERTY | DsRights.WRITE_PROPERTY;
    AttributeType attribute = attributeById.get(id);
    return (mask & properties) != 0 && attribute != null ? attribute.name : words(id);
  }

  /** Whether a class is another, or stands below it. */
  public boolean isA(String name, String other) {
    String at = lower(name);
    for (int depth = 0; depth < classes.size() + 1 && !at.isEmpty(); depth++) {
      if (at.equals(lower(other))) {
        return true;
      }
      ObjectClass here = classes.get(at);
      String above = here == null ? "" : lower(here.above);
      at = above.equals(at) ? "" : above;
    }
    return false;
  }

  private static String lower(String text) {
    return text.toLowerCase(Locale.ROOT);
  }
}
