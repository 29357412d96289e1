package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.schema.AttributeTypeDefinition;
import com.unboundid.ldap.sdk.schema.ObjectClassDefinition;
import com.unboundid.ldap.sdk.schema.Schema;
import com.unboundid.ldif.LDIFException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

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
    if (!Files.isReadable(file)) {
      problems.error(Place.of(shown), "there is no such file", "a schema (LDIF, subschema entry)");
      return Optional.empty();
    }
    try {
      Schema schema = Schema.getSchema(file.toFile());
      if (schema != null && !schema.getAttributeTypes().isEmpty()) {
        return Optional.of(new DirectorySchema(schema));
      }
      problems.error(
          Place.of(shown), "the file holds no attribute types", "a subschema entry (RFC 4512)");
    } catch (LDIFException | IOException e) {
      problems.error(
          Place.of(shown), "this is no schema: " + e.getMessage(), "a subschema entry (RFC 4512)");
    }
    return Optional.empty();
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
    return schema.getSchemaEntry().toLDIFString(0);
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
