# Tests are compiled quickly rather than fast to run: what they test is compiled as it is shipped.
function(fernleaf_compile_quickly name)
  # At this level GCC 12 sees writing past the end in std::string's own copying (bug 105329 and its kin).
  target_compile_options(${name} PRIVATE $<$<CONFIG:Release>:-O1 -Wno-array-bounds -Wno-stringop-overflow -Wno-stringop-overread>)
  target_precompile_headers(${name} PRIVATE <gtest/gtest.h> <algorithm> <filesystem> <functional> <map> <memory> <string> <vector> ${ARGN})
endfunction()

# One call a folder: a library target, its tests beside it, and the only folders it may use.
#
#   fernleaf_layer(ink USES base SOURCES stroke.cpp TESTS stroke_test.cpp LINKS Some::Library)
#
# Headers are found through the target's own include root, so a folder that includes one it does not name
# in USES neither compiles nor links.
function(fernleaf_layer name)
  cmake_parse_arguments(PARSE_ARGV 1 layer "" "" "USES;SOURCES;TESTS;LINKS;PRIVATE_LINKS")
  set(staged ${CMAKE_BINARY_DIR}/include/${name})
  file(MAKE_DIRECTORY ${staged})
  file(CREATE_LINK ${CMAKE_CURRENT_SOURCE_DIR} ${staged}/${name} SYMBOLIC)
  add_library(fernleaf_${name} STATIC ${layer_SOURCES})
  target_include_directories(fernleaf_${name} PUBLIC ${staged})
  foreach(used IN LISTS layer_USES)
    target_link_libraries(fernleaf_${name} PUBLIC fernleaf_${used})
  endforeach()
  target_link_libraries(fernleaf_${name} PUBLIC ${layer_LINKS} PRIVATE fernleaf_options ${layer_PRIVATE_LINKS})
  if(layer_TESTS)
    add_executable(${name}_test ${layer_TESTS})
    target_link_libraries(${name}_test PRIVATE fernleaf_${name} fernleaf_options GTest::gtest_main)
    target_compile_definitions(${name}_test PRIVATE FERNLEAF_SOURCE_DIR="${CMAKE_SOURCE_DIR}")
    fernleaf_compile_quickly(${name}_test)
    gtest_discover_tests(${name}_test DISCOVERY_TIMEOUT 60 PROPERTIES TIMEOUT 180)
  endif()
endfunction()

# A test program that needs a QGuiApplication: it brings its own main, which runs it without a display. HEADERS are
# compiled once for all of its sources; worth it for many.
function(fernleaf_gui_test name)
  cmake_parse_arguments(PARSE_ARGV 1 test "" "" "SOURCES;LINKS;HEADERS")
  add_executable(${name} ${test_SOURCES} ${CMAKE_SOURCE_DIR}/tests/gui_test_main.cpp)
  target_link_libraries(${name} PRIVATE ${test_LINKS} fernleaf_options GTest::gtest Qt6::Widgets Qt6::Test)
  target_compile_definitions(${name} PRIVATE FERNLEAF_SOURCE_DIR="${CMAKE_SOURCE_DIR}")
  fernleaf_compile_quickly(${name} ${test_HEADERS})
  gtest_discover_tests(${name} DISCOVERY_TIMEOUT 60 PROPERTIES TIMEOUT 180)
endfunction()
