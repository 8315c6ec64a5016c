#include "desk/shipped_stamps.h"

#include <QCoreApplication>

namespace fernleaf {

#define STAMP(name, words) QT_TRANSLATE_NOOP("Stamps", name), QT_TRANSLATE_NOOP("Stamps", words)

const std::vector<ShippedStamp>& shipped_stamps() {
    static const std::vector<ShippedStamp> stamps = {
        // Marks
        {STAMP("Tick", "mark done yes check"), "c 3.5 13 6.5 15.5 9.5 20 13 11.5 20.5 3.5"},
        {STAMP("Cross", "mark no wrong delete"), "c 4.5 4.5 12 11.5 19.5 19.8; c 19.5 4.2 12.5 12 4.2 19.5"},
        {STAMP("Question mark", "mark ask unclear"),
         "c 6.5 7.5 8.5 4 13 3.2 17 6 16.2 10 12.8 12.3 12 16; e 12 20.3 0.5 0.5"},
        {STAMP("Exclamation mark", "mark important attention"), "c 12.2 2.8 12 9 12 15.5; e 12 20.3 0.5 0.5"},
        {STAMP("Star", "mark favourite best"),
         "l 12 2.5 14.7 9 21.5 9.6 16.4 14 18 20.8 12 17.2 6 20.8 7.6 14 2.5 9.6 9.3 9 12 2.5"},
        {STAMP("Heart", "mark love like"),
         "c 12 20.5 5 14.5 2.8 9.5 4.6 5 8.6 4.2 12 8 15.4 4.2 19.4 5 21.2 9.5 19 14.5 12 20.5"},
        {STAMP("Flag", "mark goal follow up"),
         "l 6 21.5 6 3; c 6 4 10 2.8 14 5 19 3.8; c 6 12.5 10 11.2 14 13.4 19 12.2; l 19 3.8 19 12.2"},
        {STAMP("Pin", "mark place here map"),
         "c 12 21.5 6.8 14 5.8 9.5 8 5 12 3.2 16 5 18.2 9.5 17.2 14 12 21.5; e 12 9.6 2.4 2.4"},
        // Arrows
        {STAMP("Arrow right", "arrow next"),
         "c 3 12.4 9 11.6 15 12.3 20.5 12; c 15.2 6.5 18.5 9.5 20.8 12 18.2 14.6 15 17.6"},
        {STAMP("Arrow left", "arrow back"),
         "c 21 11.7 15 12.4 9 11.7 3.5 12; c 8.8 6.5 5.5 9.5 3.2 12 5.8 14.6 9 17.6"},
        {STAMP("Arrow up", "arrow more"), "c 12.3 21 11.7 15 12.3 9 12 3.5; c 6.5 8.8 9.5 5.5 12 3.2 14.6 5.8 17.6 9"},
        {STAMP("Arrow down", "arrow less"),
         "c 11.7 3 12.3 9 11.7 15 12 20.5; c 6.5 15.2 9.5 18.5 12 20.8 14.6 18.2 17.6 15"},
        {STAMP("Turning arrow", "arrow return answer"),
         "c 20 4 20.6 9 18 13.2 12 14.6 4.5 14.5; c 9.5 9.4 6.5 12 4.2 14.5 6.6 17 9.8 19.5"},
        {STAMP("Round arrow", "arrow repeat again every week"), "a 12 12.5 8 -60 235; l 2.9 6 7.4 5.9 5.9 10.2"},
        // Weather
        {STAMP("Sun", "weather clear warm day"),
         "e 12 12 4.6 4.6; l 12 1.8 12 4.8; l 12 19.2 12 22.2; l 1.8 12 4.8 12; l 19.2 12 22.2 12; l 4.8 4.8 6.9 6.9; "
         "l 17.1 17.1 19.2 19.2; l 4.8 19.2 6.9 17.1; l 17.1 6.9 19.2 4.8"},
        {STAMP("Cloud", "weather dull"),
         "o 6 18 3 15.8 3.4 12.4 6.6 11 8.4 7.2 12.6 5.8 16.2 7.8 17.2 10.6 20.4 12 21 15.6 18.4 18 12 18.2"},
        {STAMP("Rain", "weather wet shower"),
         "o 6 13.6 3.4 11.6 4 8.6 7 7.6 8.8 4.4 12.6 3.4 16 5.2 17 7.6 20 9 20.4 12 18 13.8 12 14; l 8 16.8 6.8 20.4; "
         "l 12.4 16.8 11.2 20.4; l 16.8 16.8 15.6 20.4"},
        {STAMP("Snowflake", "weather snow winter cold"),
         "l 12 2.2 12 21.8; l 3.5 7.1 20.5 16.9; l 3.5 16.9 20.5 7.1; l 9.6 3.6 12 6 14.4 3.6; l 9.6 20.4 12 18 14.4 "
         "20.4; "
         "l 3 10.4 6.4 9.2 5.6 5.8; l 21 13.6 17.6 14.8 18.4 18.2; l 3 13.6 6.4 14.8 5.6 18.2; l 21 10.4 17.6 9.2 18.4 "
         "5.8"},
        {STAMP("Thermometer", "weather frost temperature degrees cold"),
         "c 9.6 13.8 9.5 8 9.8 4.4 12 2.6 14.2 4.4 14.5 8 14.4 13.8; a 12 17 4 -53 233; l 12 7.5 12 17; l 16.8 6 19 6; "
         "l 16.8 9.5 19 9.5"},
        {STAMP("Wind", "weather storm breeze"),
         "c 2.5 9 9 9.2 14.5 8.6 16.4 6 14.8 3.6 12.4 4.6; c 2.5 13 10 13.2 18 12.8 21.2 10.6 20.2 7.6 17.8 8.2; c 4.5 "
         "17 9.5 17 13.5 17.4 14.8 19.6 13 21.4 11 20.2"},
        {STAMP("Lightning", "weather thunderstorm danger"),
         "l 13.8 2.2 6.4 13 11.4 13 9.4 21.8 18 9.8 12.6 9.8 13.8 2.2"},
        {STAMP("Moon", "weather night clear frost"),
         "c 15.4 3 10 4.4 7.2 9 8.2 15 12.6 19.6 18.6 20.2 12 22 5.6 18.6 3.2 12 5.8 5.6 11.2 2.8 15.4 3"},
        // Tools
        {STAMP("Shears", "tool scissors prune cut grafting"),
         "c 5 3 10.5 11 15.2 16.8; c 19 3 13.5 11 8.8 16.8; e 6.8 18.8 2.9 2.7; e 17.2 18.8 2.9 2.7; e 12 12.4 0.4 "
         "0.4"},
        {STAMP("Saw", "tool prune cut wood"),
         "l 2.6 8.4 15.4 8.2; l 2.6 8.4 3.4 12.6 5.2 11 6.6 13.4 8.4 11.6 9.8 14 11.6 12.4 13 14.6 15 13; c 15.4 8.2 "
         "18.4 6.6 21.2 9 20.6 14.4 17.8 16.4 15 13; o 17.2 9.8 19 10.6 18.6 13.2 17 13"},
        {STAMP("Ladder", "tool orchard picking"),
         "l 8 2.5 6 21.5; l 16 2.5 18 21.5; l 7.7 6 16.3 6; l 7.3 10 16.7 10; l 6.8 14 17.2 14; l 6.4 18 17.6 18"},
        {STAMP("Bucket", "tool water feed"),
         "l 5.2 9 7.2 21 16.8 21 18.8 9; e 12 9 6.8 1.8; c 5.4 8.4 7.6 3.6 12 2.4 16.4 3.6 18.6 8.4"},
        {STAMP("Watering can", "tool water garden"),
         "l 6.6 9.6 7.4 20.4 15.6 20.4 16.4 9.6 6.6 9.6; c 8 9.4 9.4 5.4 13.6 5.4 15 9.4; l 16 15.6 21 7.4; l 19.2 6 "
         "22.4 8.4; c 6.8 11.6 3.2 11.4 2.8 16.4 7.2 17.4"},
        {STAMP("Hammer", "tool repair mend"),
         "l 5.4 9.4 5.4 5.2 14.2 5.2 18.6 8.6 13.6 9.4 5.4 9.4; l 9 9.4 8.6 21.6 11.4 21.6 11.4 9.4"},
        {STAMP("Spade", "tool dig garden"),
         "l 12 6 12 13; c 8.6 3 12 6 15.4 3; l 8.6 3 15.4 3; c 7.4 13 16.6 13; c 7.4 13 7.2 18 12 22 16.8 18 16.6 13"},
        {STAMP("Key", "tool lock door"),
         "e 7.4 12 4.4 4.4; e 6.6 12 1 1; l 11.8 12 21.4 12 21.4 15.4; l 17.6 12 17.6 14.8"},
        // Plants
        {STAMP("Tree", "plant orchard apple"),
         "o 7 14.6 3.8 12.4 4.2 8.8 7 7.4 8.4 3.8 12.4 2.6 16 4.4 16.8 7.4 19.8 9 20.2 12.6 17 14.6 12 15; c 11 14.8 "
         "11.2 18.4 9.6 21.6; c 13.2 14.8 13 18.4 14.6 21.6; l 8 21.8 16.4 21.8"},
        {STAMP("Leaf", "plant green fern"),
         "c 4 20 4.4 12 9 5.6 20 3.6 19.4 12.4 14 18.6 6.4 17.6; c 4 20 8.4 14 15.6 8.2"},
        {STAMP("Apple", "plant fruit orchard"),
         "c 12 7.4 8 5.4 4.6 8 4.4 13.4 7.4 19.8 10.4 20.8 12 20 13.6 20.8 16.6 19.8 19.6 13.4 19.4 8 16 5.4 12 7.4; c "
         "12 7.4 12.4 4.4 14.4 2.4"},
        {STAMP("Pear", "plant fruit orchard"),
         "o 12 5.6 9.8 7 9.2 11 6.2 14.6 6.4 19.2 9.8 21.6 14.2 21.6 17.6 19.2 17.8 14.6 14.8 11 14.2 7; c 12 5.6 12.2 "
         "3.8 13.8 2.2"},
        {STAMP("Flower", "plant blossom bloom spring"),
         "e 12 9.6 1.9 1.9; e 12 5 2.3 2.7; e 16.2 8.2 2.7 2.3; e 14.6 13 2.4 2.4; e 9.4 13 2.4 2.4; e 7.8 8.2 2.7 "
         "2.3; c 12 15 12.4 18.4 11.8 22"},
        {STAMP("Seedling", "plant sow young spring"),
         "c 12 21.6 12.2 16 11.8 11.4; c 11.8 13.4 9 8.4 3.6 8 4.8 13 11.8 13.4; c 11.9 11.4 13.6 5.8 20.2 5 19.4 10.6 "
         "11.9 11.4"},
        // Faces
        {STAMP("Smiling face", "face happy good pleased"),
         "e 12 12 9 9; e 8.8 9.6 0.5 0.7; e 15.2 9.6 0.5 0.7; c 7.4 13.8 9.6 16.6 12 17.2 14.4 16.6 16.6 13.8"},
        {STAMP("Sad face", "face unhappy bad sorry"),
         "e 12 12 9 9; e 8.8 9.6 0.5 0.7; e 15.2 9.6 0.5 0.7; c 7.8 17 9.8 14.8 12 14.2 14.2 14.8 16.2 17"},
        {STAMP("Surprised face", "face oh astonished"),
         "e 12 12 9 9; e 8.8 9.2 0.6 0.9; e 15.2 9.2 0.6 0.9; e 12 16 1.8 2.3"},
        {STAMP("Thoughtful face", "face unsure hm doubtful"),
         "e 12 12 9 9; e 8.8 10 0.5 0.7; e 15.2 10 0.5 0.7; c 8.6 16.4 11.6 15.4 15.8 15.8; c 13.8 7 15.4 6.2 17 6.8"},
    };
    return stamps;
}

#undef STAMP

}  // namespace fernleaf
