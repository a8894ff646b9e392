package mandala.server.lifecycle;

import java.util.List;
import mandala.core.model.Principal;
import mandala.server.mail.Letter;
import mandala.server.mail.Mails;
import mandala.server.model.StatusListener;
import mandala.server.session.SignInLinks;
import mandala.server.session.SignInLinks.Purpose;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Sends links with which people choose their password: who is invited by a revision gets one with
 * it, and others when an administrator asks for it.
 */
@Component
public class Invitations implements StatusListener {

  private final SignInLinks links;
  private final Mails mails;
  private final String address;

  Invitations(SignInLinks links, Mails mails, @Value("${mandala.url}") String address) {
    this.links = links;
    this.mails = mails;
    this.address = address;
  }

  @Override
  public void changed(List<StatusChange> changes) {
    for (StatusChange it : changes) {
      Principal who = it.after();
      if (it.became(Principal.Status.INVITED)
          && who.kind() == Principal.Kind.PERSON
          && who.email() != null) {
        send(who, who.email(), null);
      }
    }
  }

  /**
   * Sends a link: an invitation to who is invited, else one for a new password. Those before it
   * end.
   *
   * @param by key of whoever has it sent, null where it goes by itself
   */
  @Transactional
  public void send(Principal to, String recipient, @Nullable String by) {
    boolean invited = to.status() == Principal.Status.INVITED;
    Purpose purpose = invited ? Purpose.INVITATION : Purpose.RESET;
    String secret = links.renew(to.key(), purpose, recipient, by);
    Letter letter =
        Letter.signIn(
            to.about().nameOr(to.key()),
            invited ? "You are invited to Mandala" : "Choose a new password",
            invited
                ? List.of(
                    "You are invited to Mandala, where access is looked after. Choose a password,"
                        + " and you can sign in.")
                : List.of(
                    "Somebody asked for a new password for you. Until you choose one, your password"
                        + " stays as it is."),
            address + "/join?token=" + secret,
            "The link works once, and for "
                + (invited ? "7 days" : "4 hours")
                + ". If it is over, ask for a new one.");
    mails.send(to.key().value(), recipient, letter.subject(), letter.body());
  }
}
