package mandala.document.cli;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import mandala.core.model.AccessModel;
import mandala.core.model.check.Fault;
import mandala.document.DocumentReader;

/** A model in a file, read and checked, its faults printed. */
final class ModelFile {

  /** Faults were found, or verdicts differ. */
  static final int FOUND = 1;

  /** A file cannot be read, or the call is wrong. */
  static final int UNUSABLE = 2;

  private ModelFile() {}

  /** A file that cannot be used; its message is for people. */
  static final class Unusable extends Exception {
    final int exit;

    Unusable(String message, int exit) {
      super(message);
      this.exit = exit;
    }
  }

  /** {@return the faultless model in a file}, its faults printed where it has any */
  static AccessModel read(Path file, PrintWriter err) throws Unusable {
    DocumentReader.Result result = parse(file);
    for (Fault fault : result.faults()) {
      err.println(fault);
    }
    err.flush();
    if (!result.faults().isEmpty()) {
      throw new Unusable(
          file + ": " + counted(result.faults().size()) + "; nothing was evaluated.", FOUND);
    }
    return result.model();
  }

  static String counted(int faults) {
    return faults == 1 ? "1 fault" : faults + " faults";
  }

  static DocumentReader.Result parse(Path file) throws Unusable {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
      return DocumentReader.read(in);
    } catch (IOException e) {
      throw unreadable(file);
    }
  }

  static Unusable unreadable(Path file) {
    return new Unusable(
        file + ": the file cannot be read. Check the path and who may read it.", UNUSABLE);
  }
}
