// "Bench by the north window": the invented reference of the demo studio. Metres; x to the right, y up, z away from the camera.
// One cool light from a window on the left; the shadows are warmed by plaster and shavings.
#version 3.7;
global_settings { assumed_gamma 1.0 max_trace_level 7
  radiosity { pretrace_start 0.08 pretrace_end 0.02 count 80 nearest_count 5 error_bound 0.85 recursion_limit 2 brightness 1.15 } }
#declare Seed = seed(23);
light_source { <-1.9, 1.75, 0.25> srgb <0.74, 0.87, 1.0>*2.5 area_light <0,1.0,0>,<0,0,1.3>, 6, 6 adaptive 1 jitter }
#declare Plaster = texture { pigment { granite scale 0.8 turbulence 0.3 color_map { [0 srgb <0.56,0.47,0.37>] [0.6 srgb <0.64,0.55,0.44>] [1 srgb <0.50,0.41,0.32>] } } normal { granite 0.05 scale 0.3 } finish { diffuse 0.85 ambient 0 } }
 texture { pigment { bozo turbulence 0.9 octaves 5 scale <0.4,0.8,0.4> color_map { [0 srgbt <0.16,0.12,0.09,0.55>] [0.4 srgbt <0.2,0.16,0.12,0.93>] [1 srgbt <0.7,0.6,0.5,1>] } } finish { diffuse 0.8 ambient 0 } }
box { <-2,-0.5,1.05>,<2.4,2.4,1.2> texture { Plaster } }
box { <1.7,-0.5,-2>,<1.9,2.4,1.2> texture { pigment { srgb <0.62,0.44,0.28> } finish { diffuse 0.85 ambient 0 } } }
plane { y, -0.86 texture { pigment { srgb <0.26,0.18,0.12> } finish { diffuse 0.8 ambient 0 } } }
#macro Wooden(A,B,S) texture { pigment { wood turbulence 0.09 octaves 4 scale <S,S,S*9> rotate y*88 color_map { [0 srgb A] [0.5 srgb B] [1 srgb A*0.8] } } normal { granite 0.12 scale 0.06 } finish { diffuse 0.78 ambient 0 specular 0.10 roughness 0.04 } }
 texture { pigment { bozo turbulence 0.9 scale 0.10 color_map { [0 srgbt <0.07,0.05,0.04,0.45>] [0.38 srgbt <0.1,0.08,0.06,0.95>] [1 srgbt <0.5,0.45,0.4,1>] } } finish { diffuse 0.75 ambient 0 } } #end
// bench top: three worn planks, a vice stop, scars
union { #local i=0; #while (i<3) box { <-1.5,-0.06,-0.50+0.34*i>,<1.6,0,-0.168+0.34*i> Wooden(<0.36,0.25,0.16>,<0.50,0.37,0.25>,0.04) translate <0,0.001*i,0> } #local i=i+1; #end
  box { <-1.5,-0.30,-0.56>,<1.6,-0.03,-0.51> Wooden(<0.30,0.21,0.13>,<0.42,0.31,0.20>,0.05) } }
// a jack plane of wood: body, iron, wedge, tote
#declare Plane = union {
  difference { box { <-0.21,0,-0.036>,<0.21,0.066,0.036> } box { <-0.02,0.02,-0.024>,<0.06,0.2,0.024> rotate z*-18 translate <0,-0.004,0> } Wooden(<0.40,0.26,0.14>,<0.56,0.38,0.22>,0.02) }
  box { <0,0,-0.022>,<0.006,0.16,0.022> rotate z*-42 translate <-0.012,0.012,0> texture { pigment { granite scale 0.05 color_map { [0 srgb <0.25,0.26,0.27>] [1 srgb <0.42,0.42,0.42>] } } finish { diffuse 0.5 ambient 0 specular 0.6 roughness 0.02 reflection 0.15 } } }
  box { <0.008,0,-0.020>,<0.026,0.13,0.020> rotate z*-42 translate <-0.012,0.018,0> Wooden(<0.30,0.19,0.11>,<0.44,0.29,0.17>,0.02) }
  difference { sphere { 0,1 scale <0.055,0.075,0.017> translate <0.135,0.11,0> } sphere { 0,1 scale <0.028,0.038,0.05> translate <0.140,0.112,0> } box { <0,-0.1,-1>,<1,0.062,1> } Wooden(<0.40,0.24,0.12>,<0.54,0.34,0.19>,0.02) } }
object { Plane rotate y*24 translate <0.10,0,-0.16> }
// mallet: block and handle, lying
union { box { <-0.075,-0.052,-0.045>,<0.075,0.052,0.045> Wooden(<0.48,0.35,0.22>,<0.62,0.48,0.32>,0.03) } cylinder { <0,0,0.03>,<0,-0.02,-0.34>,0.0165 Wooden(<0.44,0.32,0.2>,<0.60,0.47,0.31>,0.02) } rotate y*62 translate <0.56,0.054,0.05> }
// enamel mug: white outside, dark rim, handle
#declare White = texture { pigment { granite scale 0.4 color_map { [0 srgb <0.80,0.80,0.78>] [1 srgb <0.87,0.87,0.85>] } } finish { diffuse 0.82 ambient 0 specular 0.5 roughness 0.01 reflection { 0.02,0.14 } } }
 texture { pigment { bozo turbulence 0.8 scale 0.03 color_map { [0 srgbt <0.10,0.07,0.06,0.1>] [0.05 srgbt <0.2,0.18,0.16,0.9>] [0.08 srgbt <0.2,0.2,0.2,1>] [1 srgbt <0.2,0.2,0.2,1>] } } finish { diffuse 0.7 ambient 0 } }
#declare Navy = texture { pigment { srgb <0.06,0.08,0.16> } finish { diffuse 0.6 ambient 0 specular 0.5 roughness 0.02 } }
union { difference { cone { <0,0,0>,0.050,<0,0.105,0>,0.056 } cone { <0,0.006,0>,0.046,<0,0.2,0>,0.058 } texture { White } }
  torus { 0.0555,0.0035 translate <0,0.105,0> texture { Navy } }
  difference { torus { 0.033,0.006 rotate x*90 scale <1,1.15,1> } box { <-1,-1,-1>,<0,1,1> } rotate y*-28 translate <0.050,0.055,-0.02> texture { White } }
  cylinder { <0,0.074,0>,<0,0.0745,0>,0.052 texture { pigment { srgb <0.10,0.06,0.03> } finish { diffuse 0.4 ambient 0 specular 0.5 roughness 0.01 reflection 0.08 } } } scale 1.25 translate <-0.20,0,0.10> }
// window sill and frame at the left edge
union { box { <-1.45,0.25,0.95>,<-0.70,0.30,1.06> } box { <-0.74,0.25,0.98>,<-0.68,2,1.06> } texture { pigment { granite color_map { [0 srgb <0.60,0.61,0.58>] [1 srgb <0.70,0.71,0.68>] } } finish { diffuse 0.8 ambient 0 } } }
// shelf and hanging square and a dark jar on the wall
union { box { <0.16,0.55,0.86>,<1.30,0.58,1.06> Wooden(<0.28,0.20,0.13>,<0.38,0.28,0.18>,0.04) }
  cylinder { <0.42,0.58,0.96>,<0.42,0.74,0.96>,0.055 texture { pigment { srgb <0.12,0.15,0.13> } finish { diffuse 0.6 ambient 0 specular 0.7 roughness 0.008 reflection 0.08 } } }
  cylinder { <0.60,0.58,0.96>,<0.60,0.69,0.96>,0.065 texture { pigment { srgb <0.36,0.16,0.10> } finish { diffuse 0.75 ambient 0 specular 0.1 roughness 0.05 } } }
  box { <0.80,0.58,0.90>,<0.84,0.80,1.03> texture { pigment { srgb <0.24,0.27,0.31> } finish { diffuse 0.8 ambient 0 } } } box { <0.845,0.58,0.91>,<0.885,0.77,1.03> texture { pigment { srgb <0.40,0.33,0.22> } finish { diffuse 0.8 ambient 0 } } } }
// shavings: curled ribbons
#local i=0; #while (i<13) #local px=-0.30+0.72*rand(Seed); #local pz=-0.44+0.13*rand(Seed); #local r=0.010+0.014*rand(Seed);
  difference { cylinder { <0,0,-0.012>,<0,0,0.012>,r } cylinder { <0,0,-1>,<0,0,1>,r*0.93 } box { <0,0,-1>,<1,1,1> rotate z*360*rand(Seed) } rotate y*360*rand(Seed) rotate x*30*rand(Seed) translate <px,r,pz> texture { pigment { srgb <0.72,0.56,0.36>*(0.8+0.35*rand(Seed)) } finish { diffuse 0.85 ambient 0 } } } #local i=i+1; #end
#local i=0; #while (i<600) sphere { 0,0.002+0.002*rand(Seed) scale <1.6,0.6,1> translate <-1+2*rand(Seed),0.001,-0.5+rand(Seed)> texture { pigment { srgb <0.66,0.52,0.35>*(0.7+0.5*rand(Seed)) } finish { diffuse 0.85 ambient 0 } } } #local i=i+1; #end
camera { perspective right x*4/5 up y location <0.14,0.45,-1.42> look_at <0.14,0.17,0.2> angle 37
  #ifdef (Blur) aperture 0.02 focal_point <0.1,0.05,-0.1> blur_samples 8 variance 1/600 confidence 0.85 #end }
