/** Mail to a mail server where one is set, else into an outbox that is read in the application. */
@NullMarked
package mandala.server.mail;

import org.jspecify.annotations.NullMarked;
