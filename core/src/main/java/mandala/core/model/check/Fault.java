package mandala.core.model.check;

/**
 * One thing that is wrong with a model.
 *
 * @param path where, as a JSON path into the document, {@code $.units[3].parent}
 * @param what what is wrong, naming the value
 * @param next what to do about it
 */
public record Fault(String path, String what, String next) {
  @Override
  public String toString() {
    return path + ": " + what + ". " + next + ".";
  }
}
