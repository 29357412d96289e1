package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.schema.AttributeTypeDefinition;
import com.unboundid.ldap.sdk.schema.ObjectClassDefinition;
import com.unboundid.ldap.sdk.schema.Schema;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.TextFiles;

/**
 * The schema a directory publishes (RFC 4512 section 4.2): which names mean one attribute type,
 * which types stand below another, what classes are above a class, and how values compare.
 * Immutable and thread-safe.
 */
public final class DirectorySchema {
  private final Schema schema;
  private final org.sobercompass.core.filter.Schema rules;
  private final Map<String, List<String>> names = new HashMap<>();
  private final Map<List<String>, List<String>> classes = new ConcurrentHashMap<>();
  private final Map<List<String>, Set<String>> musts = new ConcurrentHashMap<>();

  /** Takes a schema over. O(attribute types x depth). */
  public DirectorySchema(Schema schema) {
    this.schema = schema;
    boolean bare =
        schema.getAttributeTypes().stream()
            .noneMatch(type -> type.getEqualityMatchingRule() != null);
    Map<String, Matching> types = new HashMap<>();
    for (AttributeTypeDefinition type : schema.getAttributeTypes()) {
      Matching matching = bare ? MatchingRules.bySyntax(type) : MatchingRules.of(type, schema);
      types.put(lower(type.getOID()), matching);
      for (String name : type.getNames()) {
        types.put(lower(name), matching);
        nameAll(type, name);
      }
    }
    this.rules = new org.sobercompass.core.filter.Schema(types);
  }

  /** A type's own names, for itself and for each type it stands below (RFC 4512 section 2.5.1). */
  private void nameAll(AttributeTypeDefinition type, String alias) {
    AttributeTypeDefinition at = type;
    Set<AttributeTypeDefinition> seen = new LinkedHashSet<>();
    while (at != null && seen.add(at)) {
      names.computeIfAbsent(lower(at.getOID()), n -> new ArrayList<>()).add(lower(alias));
      for (String above : at.getNames()) {
        names.computeIfAbsent(lower(above), n -> new ArrayList<>()).add(lower(alias));
      }
      at = at.getSuperiorType() == null ? null : schema.getAttributeType(at.getSuperiorType());
    }
  }

  /**
   * Reads a subschema entry from LDIF (RFC 2849); empty, with a problem told, when it is none.
   *
   * @param shown how the user names the file
   */
  public static Optional<DirectorySchema> read(Path file, String shown, Problems problems) {
    List<Entry> entries = new ArrayList<>();
    Problems told = new Problems();
    TextFiles.stream(
        file,
        shown,
        told,
        in ->
            LdifSource.entries(
                in,
                shown,
                told,
                entry -> {
                  if (entries.isEmpty() && entry.hasAttribute("attributeTypes")) {
                    entries.add(entry);
                  }
                }));
    if (told.errors() > 0) {
      told.list().stream()
          .filter(problem -> problem.severity() == Problem.Severity.ERROR)
          .forEach(problems::add);
      return Optional.empty();
    }
    if (entries.isEmpty()) {
      problems.error(
          Place.of(shown), "the file holds no attribute types", "a subschema entry (RFC 4512)");
      return Optional.empty();
    }
    return of(entries.get(0), Place.of(shown), problems);
  }

  /**
   * Takes a subschema entry. One whose types or classes stand above themselves is refused: whoever
   * follows them would never end.
   */
  public static Optional<DirectorySchema> of(Entry entry, Place place, Problems problems) {
    int before = problems.errors();
    Map<String, List<String>> types = new LinkedHashMap<>();
    for (AttributeTypeDefinition type : parsed(entry, "attributeTypes", DirectorySchema::type)) {
      String above = type.getSuperiorType();
      ups(
          types,
          type.getOID(),
          type.getNames(),
          above == null ? new String[0] : new String[] {above});
    }
    Map<String, List<String>> classes = new LinkedHashMap<>();
    for (ObjectClassDefinition one : parsed(entry, "objectClasses", DirectorySchema::objectClass)) {
      ups(classes, one.getOID(), one.getNames(), one.getSuperiorClasses());
    }
    circle(types, "attribute types", place, problems);
    circle(classes, "object classes", place, problems);
    if (problems.errors() > before) {
      return Optional.empty();
    }
    return Optional.of(new DirectorySchema(new Schema(entry)));
  }

  private interface Parse<T> {
    T of(String text) throws LDAPException;
  }

  private static AttributeTypeDefinition type(String text) throws LDAPException {
    return new AttributeTypeDefinition(text);
  }

  private static ObjectClassDefinition objectClass(String text) throws LDAPException {
    return new ObjectClassDefinition(text);
  }

  /** The definitions of an attribute; what is none is passed over, as the library does. */
  private static <T> List<T> parsed(Entry entry, String attribute, Parse<T> parse) {
    List<T> all = new ArrayList<>();
    String[] values = entry.getAttributeValues(attribute);
    for (String value : values == null ? new String[0] : values) {
      try {
        all.add(parse.of(value));
      } catch (LDAPException e) {
        continue;
      }
    }
    return all;
  }

  private static void ups(
      Map<String, List<String>> all, String oid, String[] names, String[] above) {
    List<String> ups = Arrays.stream(above).map(DirectorySchema::lower).toList();
    all.put(lower(oid), ups);
    for (String name : names) {
      all.put(lower(name), ups);
    }
  }

  /** Tells the first definition that stands above itself; O(definitions x depth). */
  private static void circle(
      Map<String, List<String>> above, String what, Place place, Problems problems) {
    Set<String> ended = new HashSet<>();
    for (String start : above.keySet()) {
      Set<String> path = new LinkedHashSet<>();
      Deque<String> left = new ArrayDeque<>(List.of(start));
      while (!left.isEmpty()) {
        String at = left.peek();
        if (ended.contains(at) || path.contains(at) && path.remove(at)) {
          ended.add(left.pop());
          continue;
        }
        path.add(at);
        for (String up : above.getOrDefault(at, List.of())) {
          if (path.contains(up) && !up.equals("top")) {
            problems.error(
                place,
                "the "
                    + what
                    + " "
                    + Problem.quote(at)
                    + " and "
                    + Problem.quote(up)
                    + " stand above each other in a circle",
                "a definition that is not above itself (RFC 4512 section 2.5.1)");
            return;
          }
          left.push(up);
        }
      }
    }
  }

  /** How each attribute type compares. */
  public org.sobercompass.core.filter.Schema rules() {
    return rules;
  }

  /** How many attribute types it has. */
  public int attributeTypes() {
    return schema.getAttributeTypes().size();
  }

  /** How many object classes it has. */
  public int objectClasses() {
    return schema.getObjectClasses().size();
  }

  /** The subschema entry as LDIF lines. */
  public String toLdif() {
    return schema.getSchemaEntry().toLDIFString(0) + "\n";
  }

  /**
   * All names (lower case) whose values count as values of this attribute: its own names and those
   * of the types below it.
   */
  public List<String> names(String attribute) {
    return names.getOrDefault(attribute, List.of(attribute));
  }

  /** These classes and those above them, as written first (RFC 4512 section 3.3). */
  public List<String> withSuperclasses(List<String> written) {
    return classes.computeIfAbsent(List.copyOf(written), this::raised);
  }

  /** Whether it defines an object class. */
  public boolean defines(String objectClass) {
    return schema.getObjectClass(objectClass) != null;
  }

  /** The attributes (lower case) that an entry of these classes must have (RFC 4512 2.4). */
  public Set<String> required(List<String> written) {
    return musts.computeIfAbsent(
        List.copyOf(written),
        names -> {
          Set<String> must = new LinkedHashSet<>();
          for (String name : names) {
            ObjectClassDefinition definition = schema.getObjectClass(name);
            if (definition != null) {
              definition
                  .getRequiredAttributes(schema, true)
                  .forEach(type -> must.add(lower(type.getNameOrOID())));
            }
          }
          return Set.copyOf(must);
        });
  }

  private List<String> raised(List<String> written) {
    Map<String, String> all = new java.util.LinkedHashMap<>();
    written.forEach(name -> all.putIfAbsent(lower(name), name));
    for (String name : written) {
      ObjectClassDefinition definition = schema.getObjectClass(name);
      if (definition != null) {
        definition
            .getSuperiorClasses(schema, true)
            .forEach(above -> all.putIfAbsent(lower(above.getNameOrOID()), above.getNameOrOID()));
      }
    }
    return List.copyOf(all.values());
  }

  private static String lower(String text) {
    return text.toLowerCase(Locale.ROOT);
  }
}
