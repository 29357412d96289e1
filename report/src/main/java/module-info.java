/** Answers as tables, text, pages and reports for pipelines. */
@org.jspecify.annotations.NullMarked
module org.sobercompass.report {
  requires transitive org.sobercompass.core;
  requires static transitive org.jspecify;
  requires gg.jte.runtime;
  requires java.xml;
  requires org.dhatim.fastexcel;
  requires org.eclipse.elk.alg.layered;
  requires org.eclipse.elk.core;
  requires org.eclipse.elk.graph;
  requires org.eclipse.emf.common;
  requires org.eclipse.emf.ecore;
  requires tools.jackson.core;
  requires tools.jackson.databind;
  requires tools.jackson.dataformat.csv;

  exports org.sobercompass.report.answers;
  exports org.sobercompass.report.data;
  exports org.sobercompass.report.findings;
  exports org.sobercompass.report.page;
  exports org.sobercompass.report.picture;
  exports org.sobercompass.report.pipeline;
}
