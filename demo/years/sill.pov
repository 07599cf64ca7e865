// "Things on the sill": a jug, three pears and a cloth by a window, through two years. Metres; x right, y up, z away.
// Declared from outside: Lamp 0 cool window from the left, 1 warm lamp from the right, 2 both; Cloth 0 white, 1 red, 2 dark green.
#version 3.7;
#include "functions.inc"
global_settings { assumed_gamma 1.0 max_trace_level 6
  radiosity { pretrace_start 0.08 pretrace_end 0.03 count 60 nearest_count 5 error_bound 0.9 recursion_limit 2 brightness 1.1 } }
#declare Seed = seed(7+Lamp+3*Cloth);
#if (Lamp=0 | Lamp=2) light_source { <-1.6,1.5,-0.3> srgb <0.72,0.86,1.0>*2.2 area_light <0,0.9,0>,<0,0,0.9>,6,6 adaptive 1 jitter } #end
#if (Lamp>0) light_source { <1.1,0.9,-0.6> srgb <1.0,0.72,0.42>*1.7 area_light <0,0.12,0>,<0,0,0.12>,4,4 adaptive 1 jitter } #end
#macro Worn(A,B,S) texture { pigment { granite scale S turbulence 0.3 color_map { [0 srgb A] [1 srgb B] } } normal { granite 0.06 scale 0.2 } finish { diffuse 0.82 ambient 0 } } #end
box { <-2,-0.5,0.55>,<2,2,0.7> Worn(<0.44,0.42,0.37>,<0.56,0.54,0.48>,0.7) }
box { <-2,-0.08,-0.6>,<2,0,0.56> Worn(<0.34,0.24,0.16>,<0.50,0.38,0.26>,0.12) }
#declare Fabric = <0.82,0.81,0.78>*(Cloth=0)+<0.52,0.09,0.08>*(Cloth=1)+<0.07,0.16,0.11>*(Cloth=2);
height_field { function 160,160 { 0.4+0.35*f_noise3d(x*5+Cloth,y*4,2)+0.12*f_noise3d(x*14,y*12,1) } smooth translate <-0.5,-0.3,-0.5> scale <0.85,0.13,0.55> rotate y*14 translate <0.10,0.002,-0.05> texture { pigment { srgb Fabric } finish { diffuse 0.85 ambient 0 } } }
lathe { cubic_spline 9, <0,-0.02>,<0.085,0>,<0.115,0.09>,<0.105,0.17>,<0.060,0.235>,<0.058,0.26>,<0.072,0.29>,<0.066,0.30>,<0.05,0.26>
  translate <-0.20,0.02,0.16> texture { pigment { granite scale 0.3 color_map { [0 srgb <0.16,0.24,0.34>] [0.7 srgb <0.22,0.32,0.44>] [1 srgb <0.30,0.38,0.46>] } } finish { diffuse 0.7 ambient 0 specular 0.6 roughness 0.012 reflection { 0.02,0.12 } } } }
torus { 0.055,0.011 rotate x*90 scale <0.8,1.25,1> translate <-0.325,0.17,0.16> texture { pigment { srgb <0.20,0.29,0.40> } finish { diffuse 0.7 ambient 0 specular 0.5 roughness 0.02 } } }
#macro Pear(A,B) union { lathe { cubic_spline 8, <0,-0.01>,<0.030,0>,<0.048,0.034>,<0.042,0.068>,<0.022,0.098>,<0.014,0.116>,<0,0.121>,<-0.01,0.1> texture { pigment { gradient y scale 0.13 turbulence 0.2 color_map { [0 srgb A] [1 srgb B] } } finish { diffuse 0.82 ambient 0 specular 0.3 roughness 0.03 } } texture { pigment { bozo scale 0.006 color_map { [0 srgbt <0.3,0.2,0.1,0.4>] [0.12 srgbt <1,1,1,1>] [1 srgbt <1,1,1,1>] } } finish { diffuse 0.7 ambient 0 } } }
  cylinder { <0,0.115,0>,<0.010,0.145,0>,0.003 texture { pigment { srgb <0.16,0.10,0.06> } finish { diffuse 0.8 ambient 0 } } } } #end
object { Pear(<0.62,0.52,0.12>,<0.50,0.50,0.16>) translate <0.06,0.03,-0.02> } object { Pear(<0.58,0.36,0.10>,<0.55,0.48,0.14>) rotate z*78 translate <0.28,0.068,0.05> } object { Pear(<0.44,0.48,0.14>,<0.56,0.52,0.20>) rotate y*80 translate <0.17,0.03,0.14> }
camera { perspective right x*4/3 up y location <0.02,0.34,-0.95> look_at <0.02,0.115,0.1> angle 40 }
