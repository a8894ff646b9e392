package mandala.server.tidy;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What can go without anybody gaining or losing anything.
 *
 * @param revision of the model that it fits
 * @param at instants before it do not count
 * @param part whether there may be more that the viewer can't read or can't change
 * @param changes whether the viewer may change these things; else they may only read the proposals
 * @param steps in an order in which each fits what those before left
 */
record TidyAnswer(
    long revision, Instant at, boolean part, boolean changes, List<TidyProposal> steps) {

  /**
   * Something that can go.
   *
   * @param reason {@code included}, {@code covered}, {@code ended}, {@code twin}, {@code
   *     no-effect}, {@code role} or {@code group}
   * @param said what changes, in sentences
   * @param why it changes nothing for anybody
   * @param account name of the account to which the changed thing belongs; absent where none, or
   *     the viewer may not read it
   * @param fewer how many fewer statements there are
   * @param needs places in the list of earlier proposals that come with it
   * @param changes the same as a document; absent in answers to calls
   */
  record TidyProposal(
      String reason,
      List<String> said,
      String why,
      @Nullable String account,
      int fewer,
      List<Integer> needs,
      @Nullable String changes) {

    TidyProposal told() {
      return new TidyProposal(reason, said, why, account, fewer, needs, null);
    }
  }

  /** {@return the same without documents} */
  TidyAnswer told() {
    return new TidyAnswer(
        revision, at, part, changes, steps.stream().map(TidyProposal::told).toList());
  }
}
