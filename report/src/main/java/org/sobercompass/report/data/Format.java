package org.sobercompass.report.data;

/** How an answer is written. */
public enum Format {
  table,
  csv,
  json,
  jsonl
}
