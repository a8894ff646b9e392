package mandala.document.cli;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.excess.Use;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.check.Fault;
import mandala.document.UseReader;
import picocli.CommandLine.Option;

/** The use of a model in a file, and the days of it that count. */
final class UseFile {

  @Option(
      names = "--days",
      required = true,
      description = "How many dates of use count, the last that of --at.")
  private int days;

  /** A model and its use. */
  record Read(Engine engine, List<UseRecord> records) {}

  UseWindow window(Instant at) throws ModelFile.Unusable {
    try {
      return new UseWindow(at, days);
    } catch (IllegalArgumentException e) {
      throw new ModelFile.Unusable("--days: " + e.getMessage() + ".", ModelFile.UNUSABLE);
    }
  }

  /** {@return how many days count} */
  int days() {
    return days;
  }

  /** Reads both files, to report the faults of both. */
  Read read(Path file, Asking asking, PrintWriter err) throws ModelFile.Unusable {
    Engine engine;
    try {
      engine = asking.engine(err);
    } catch (ModelFile.Unusable e) {
      if (e.exit == ModelFile.FOUND) {
        records(file, err);
      }
      throw e;
    }
    return new Read(engine, records(file, err));
  }

  /** {@return what some records tell}, the number of strangers printed */
  static Use told(Read read, UseWindow window, PrintWriter err) {
    Use.Told told = Use.of(read.records(), window, read.engine().catalogue());
    err.println(
        told.strangers().size() == 1
            ? "1 record names somebody or something that the model does not have"
            : told.strangers().size()
                + " records name somebody or something that the model does not have");
    err.flush();
    return told.use();
  }

  private List<UseRecord> records(Path file, PrintWriter err) throws ModelFile.Unusable {
    List<UseRecord> records = new ArrayList<>();
    List<Fault> faults;
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
      faults = UseReader.read(in, records::add);
    } catch (IOException e) {
      throw ModelFile.unreadable(file);
    }
    faults.forEach(err::println);
    err.flush();
    if (!faults.isEmpty()) {
      throw new ModelFile.Unusable(
          file + ": " + ModelFile.counted(faults.size()) + "; nothing was computed.",
          ModelFile.FOUND);
    }
    return records;
  }
}
