/** The command. It exports nothing: programs use {@code org.sobercompass.organization}. */
@org.jspecify.annotations.NullMarked
module org.sobercompass.cli {
  requires static org.jspecify;
  requires info.picocli;
  requires org.sobercompass.report;
  requires org.sobercompass.sources;
  requires unboundid.ldapsdk;

  opens org.sobercompass.cli to
      info.picocli;
}
