# bevelsmith_domain(<name> [APART] [USES <domain>...] [PUBLIC <lib>...] [PRIVATE <lib>...])
# One library for one folder of src/: every .cpp in it, linked to the domains before it. With BEVELSMITH_UNITY (the ci
# preset) its files are compiled some together, which takes a third of the time; APART where two of them share a name.
function(bevelsmith_domain name)
  cmake_parse_arguments(arg "APART" "" "USES;PUBLIC;PRIVATE" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.cpp)
  file(GLOB headers CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.h)
  add_library(bevelsmith_${name} STATIC ${sources} ${headers})
  add_library(bevelsmith::${name} ALIAS bevelsmith_${name})
  if(BEVELSMITH_UNITY AND NOT arg_APART)
    set_target_properties(bevelsmith_${name} PROPERTIES UNITY_BUILD ON UNITY_BUILD_BATCH_SIZE 10)
  endif()
  list(TRANSFORM arg_USES PREPEND bevelsmith::)
  target_link_libraries(bevelsmith_${name}
    PUBLIC bevelsmith_options ${arg_USES} ${arg_PUBLIC} PRIVATE ${arg_PRIVATE})
endfunction()
