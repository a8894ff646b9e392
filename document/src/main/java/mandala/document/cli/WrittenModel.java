package mandala.document.cli;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.document.ChangeText;
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

  /** Tells changes that are made one after the other. */
  static final class Teller {

    private Catalogue now;

    Teller(Catalogue before) {
      now = before;
    }

    /** {@return what some changes to the model so far do, in one sentence with the reason} */
    String sentence(List<Change> changes, String why) {
      List<String> said = new ArrayList<>();
      for (Change change : changes) {
        Catalogue after = Draft.of(List.of(change)).appliedUnchecked(now);
        said.addAll(new ChangeText(now, after).sentences(change));
        now = after;
      }
      return String.join("; ", said) + ": " + why;
    }
  }
}
