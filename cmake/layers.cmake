# Compiles sources of a target a few at a time, as one: most of the time goes into headers, which they share. Names in
# their unnamed namespaces must then differ. clang-tidy still looks at each by itself (the preset tidy).
function(fernleaf_compile_together name)
  if(FERNLEAF_TOGETHER)
    set_target_properties(${name} PROPERTIES UNITY_BUILD ON UNITY_BUILD_BATCH_SIZE 8)
  endif()
endfunction()

# Tests are compiled quickly rather than fast to run: what they test is compiled as it is shipped. HEADERS are compiled
# once beside the usual ones; LIKE: those that another program of tests has compiled.
function(fernleaf_compile_quickly name)
  cmake_parse_arguments(PARSE_ARGV 1 quick "" "LIKE" "HEADERS")
  # At this level GCC 12 sees writing past the end in std::string's own copying (bug 105329 and its kin).
  fernleaf_compile_together(${name})
  target_compile_options(${name} PRIVATE $<$<CONFIG:Release>:-O1 -Wno-array-bounds -Wno-stringop-overflow -Wno-stringop-overread>)
  if(quick_LIKE)
    target_precompile_headers(${name} REUSE_FROM ${quick_LIKE})
  else()
    target_precompile_headers(${name} PRIVATE <gtest/gtest.h> <algorithm> <filesystem> <functional> <map> <memory> <string> <vector> ${quick_HEADERS})
  endif()
endfunction()

# Tests run in shards, several side by side: starting a process for each takes longer than most of them.
function(fernleaf_add_tests name shards)
  set(longest 300)
  if(FERNLEAF_SANITIZE OR FERNLEAF_TSAN)
    set(longest 1800)
  endif()
  math(EXPR last "${shards} - 1")
  foreach(shard RANGE ${last})
    math(EXPR number "${shard} + 1")
    add_test(NAME ${name}.${number} COMMAND ${name})
    set_tests_properties(${name}.${number} PROPERTIES TIMEOUT ${longest} LABELS ${name}
      ENVIRONMENT "GTEST_TOTAL_SHARDS=${shards};GTEST_SHARD_INDEX=${shard};GTEST_BRIEF=1")
  endforeach()
  add_dependencies(tests ${name})
endfunction()

# One call a folder: a library target, its tests beside it, and the only folders it may use.
#
#   fernleaf_layer(ink USES base SOURCES stroke.cpp TESTS stroke_test.cpp LINKS Some::Library PRECOMPILE <some/header>)
#
# Headers are found through the target's own include root, so a folder that includes one it does not name
# in USES neither compiles nor links. FAST folders compute: the compiler takes its time over them. Tests of folders that
# use OpenCV's pictures are gathered into paper_test, the others into core_test (fernleaf_core_tests). TOGETHER: as for
# fernleaf_compile_together.
function(fernleaf_layer name)
  cmake_parse_arguments(PARSE_ARGV 1 layer "FAST;TOGETHER" "GROUP" "USES;SOURCES;TESTS;LINKS;PRIVATE_LINKS;PRECOMPILE")
  set(staged ${CMAKE_BINARY_DIR}/include/${name})
  file(MAKE_DIRECTORY ${staged})
  file(CREATE_LINK ${CMAKE_CURRENT_SOURCE_DIR} ${staged}/${name} SYMBOLIC)
  add_library(fernleaf_${name} STATIC ${layer_SOURCES})
  target_include_directories(fernleaf_${name} PUBLIC ${staged})
  foreach(used IN LISTS layer_USES)
    target_link_libraries(fernleaf_${name} PUBLIC fernleaf_${used})
  endforeach()
  target_link_libraries(fernleaf_${name} PUBLIC ${layer_LINKS} PRIVATE fernleaf_options ${layer_PRIVATE_LINKS})
  if(layer_TOGETHER)
    fernleaf_compile_together(fernleaf_${name})
  endif()
  if(layer_FAST)
    target_compile_options(fernleaf_${name} PRIVATE $<$<CONFIG:Release>:-O3>)
  endif()
  if(layer_PRECOMPILE)
    target_precompile_headers(fernleaf_${name} PRIVATE <algorithm> <functional> <memory> <string> <vector> ${layer_PRECOMPILE})
  endif()
  if(NOT layer_GROUP)
    set(layer_GROUP core)
  endif()
  list(TRANSFORM layer_TESTS PREPEND ${CMAKE_CURRENT_SOURCE_DIR}/)
  set_property(GLOBAL APPEND PROPERTY fernleaf_${layer_GROUP}_tests ${layer_TESTS})
  set_property(GLOBAL APPEND PROPERTY fernleaf_${layer_GROUP}_layers fernleaf_${name})
endfunction()

# One program of the tests of a group of folders. LINKS: what only its tests use. LIKE: as for fernleaf_compile_quickly.
function(fernleaf_core_tests group shards)
  cmake_parse_arguments(PARSE_ARGV 2 tests "" "LIKE" "LINKS")
  if(NOT FERNLEAF_TESTS)
    return()
  endif()
  get_property(sources GLOBAL PROPERTY fernleaf_${group}_tests)
  get_property(layers GLOBAL PROPERTY fernleaf_${group}_layers)
  add_executable(${group}_test ${sources})
  target_link_libraries(${group}_test PRIVATE ${layers} fernleaf_options GTest::gtest_main ${tests_LINKS})
  target_compile_definitions(${group}_test PRIVATE FERNLEAF_SOURCE_DIR="${CMAKE_SOURCE_DIR}")
  fernleaf_compile_quickly(${group}_test LIKE ${tests_LIKE})
  fernleaf_add_tests(${group}_test ${shards})
endfunction()

# A test program that needs a QGuiApplication: it brings its own main, which runs it without a display. HEADERS: as for
# fernleaf_compile_quickly; Qt defines a directory for each such program, so they can't share them.
function(fernleaf_gui_test name)
  if(NOT FERNLEAF_TESTS)
    return()
  endif()
  cmake_parse_arguments(PARSE_ARGV 1 test "" "SHARDS" "SOURCES;LINKS;HEADERS")
  add_executable(${name} ${test_SOURCES} ${CMAKE_SOURCE_DIR}/tests/gui_test_main.cpp)
  target_link_libraries(${name} PRIVATE ${test_LINKS} fernleaf_options GTest::gtest Qt6::Widgets Qt6::Test)
  target_include_directories(${name} PRIVATE ${CMAKE_SOURCE_DIR}/tests)
  target_compile_definitions(${name} PRIVATE FERNLEAF_SOURCE_DIR="${CMAKE_SOURCE_DIR}")
  fernleaf_compile_quickly(${name} HEADERS ${test_HEADERS})
  fernleaf_add_tests(${name} ${test_SHARDS})
endfunction()

# A folder of the window, by the files in it: what ends in _test.cpp is a test, all else its library. Like fernleaf_layer
# it sees only the folders it names in USES; FIRST compiles the headers that the other folders share.
function(fernleaf_app_layer name)
  cmake_parse_arguments(PARSE_ARGV 1 layer "FIRST" "" "USES;LINKS")
  file(GLOB sources CONFIGURE_DEPENDS *.cpp *.h)
  set(tests ${sources})
  list(FILTER sources EXCLUDE REGEX "_(test\\.cpp|fixture\\.h)$")
  list(FILTER tests INCLUDE REGEX "_test\\.cpp$")
  set(staged ${CMAKE_BINARY_DIR}/include/app_${name})
  file(MAKE_DIRECTORY ${staged})
  file(CREATE_LINK ${CMAKE_CURRENT_SOURCE_DIR} ${staged}/${name} SYMBOLIC)
  add_library(fernleaf_app_${name} STATIC ${sources})
  set_target_properties(fernleaf_app_${name} PROPERTIES AUTOMOC ON)
  fernleaf_compile_together(fernleaf_app_${name})
  target_include_directories(fernleaf_app_${name} PUBLIC ${staged})
  list(TRANSFORM layer_USES PREPEND fernleaf_app_)
  target_link_libraries(fernleaf_app_${name} PUBLIC ${layer_USES} ${layer_LINKS} PRIVATE fernleaf_options)
  if(layer_FIRST)
    # Qt's headers are most of what there is to compile.
    target_precompile_headers(fernleaf_app_${name} PRIVATE <QtWidgets> <algorithm> <filesystem> <functional> <map> <memory> <string> <vector>)
  else()
    target_precompile_headers(fernleaf_app_${name} REUSE_FROM fernleaf_app_look)
  endif()
  set_property(GLOBAL APPEND PROPERTY fernleaf_app_tests ${tests})
endfunction()
