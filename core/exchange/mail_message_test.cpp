#include "exchange/mail_message.h"

#include <gtest/gtest.h>

#include "base/helper_process.h"

namespace fernleaf {
namespace {

constexpr int64_t kWhen = 1'790'000'000'000;

TEST(MailMessage, CarriesItsTextAndFiles) {
    std::string picture(70'000, '\0');
    for (size_t i = 0; i < picture.size(); ++i) picture[i] = static_cast<char>(i * 31);
    const auto mail = write_mail({"Ines Varga <ines@example.org>, tobias@example.org",
                                  "Frost über Nacht: −2 °C",
                                  "Grüße vom Hügel\n.\nFrom the press house",
                                  {{"Frost watch, Seite 2 – ü.png", picture}, {"notes.txt", "two crates\n"}}},
                                 kWhen);
    ASSERT_TRUE(mail) << mail.error().message;
    // Taken apart by a reader of its own.
    const auto said = output_of("python3", {"-c", R"(
import email, email.policy, sys
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
print(m["to"]); print(m["subject"]); print(m["date"].datetime.timestamp())
parts = list(m.iter_parts())
print(parts[0].get_content())
for p in parts[1:]:
    data = p.get_payload(decode=True)
    print(p.get_content_type(), p.get_filename(), len(data), data == bytes(i * 31 % 256 for i in range(len(data))))
)"},
                                *mail);
    ASSERT_TRUE(said) << said.error().message;
    EXPECT_EQ(*said,
              "Ines Varga <ines@example.org>, tobias@example.org\n"
              "Frost über Nacht: −2 °C\n1790000000.0\n"
              "Grüße vom Hügel\n.\nFrom the press house\n"
              "image/png Frost watch, Seite 2 – ü.png 70000 True\n"
              "text/plain notes.txt 11 False\n");
}

TEST(MailMessage, NothingTypedBecomesAHeader) {
    const auto mail = write_mail({"ines@example.org", "Frost\r\nBcc: all@example.org", "", {}}, kWhen);
    ASSERT_TRUE(mail);
    EXPECT_EQ(mail->find("\nBcc:"), std::string::npos);
}

TEST(MailMessage, KnowsAddresses) {
    EXPECT_EQ(*mail_addresses("ines@example.org"), std::vector<std::string>{"ines@example.org"});
    const auto two = mail_addresses("Mirela Stan <mirela@example.org>, tobias@example.org");
    ASSERT_TRUE(two);
    EXPECT_EQ(two->size(), 2U);
    for (const char* none : {"", "  ", "Ines", "ines@", "@example.org", "ines@example.org, Tobias"})
        EXPECT_FALSE(mail_addresses(none)) << none;
}

}  // namespace
}  // namespace fernleaf
