package mandala.document.cli;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.document.ChangeTeller;
import mandala.document.DocumentWriter;
import picocli.CommandLine.Option;

/** The file that another model is written to, and what was changed in words. */
final class WrittenModel {

  @Option(
      names = "--write",
      required = true,
      paramLabel = "OUT.json",
      description = "The file to write the other model to.")
  private Path write = Path.of("");

  void write(AccessModel model) throws ModelFile.Unusable {
    try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(write))) {
      DocumentWriter.write(model, out);
    } catch (IOException e) {
      throw new ModelFile.Unusable(
          "--write: " + write + " cannot be written. Check the path and who may write there.",
          ModelFile.UNUSABLE);
    }
  }

  /** {@return what a step does and why it is safe, in one sentence} */
  static String sentence(ChangeTeller teller, List<Change> changes, String why) {
    return String.join("; ", teller.sentences(changes)) + ": " + why;
  }
}
