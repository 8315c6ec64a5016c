// A message with files attached, as any mail program opens it (RFC 5322, MIME).
//
//   auto bytes = write_mail({"ines@example.org", "Frost watch, page 2", "", {{"Frost watch.pdf", pdf}}});
#pragma once

#include <string>
#include <vector>

#include "base/result.h"

namespace fernleaf {

struct MailAttachment {
    std::string name;  // with the ending that tells what it is
    std::string bytes;
};

struct MailMessage {
    std::string to;  // addresses with commas between
    std::string subject, text;
    std::vector<MailAttachment> attachments;
};

// The addresses in what was typed, names and all, as mail programs take them. Errors: one is none; there is none.
Result<std::vector<std::string>> mail_addresses(const std::string& typed);

// date_ms: when, ms since 1970. Errors: as mail_addresses.
Result<std::string> write_mail(const MailMessage& message, int64_t date_ms);

}  // namespace fernleaf
