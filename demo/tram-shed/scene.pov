// "Tram shed, first frost": the invented reference of the demo studio.
// Metres; x to the right, y up, z away from the camera. One low warm sun from the left, just behind the
// shed's front wall, so that the side wall and the tram's flank are lit and the front stands in cool shade.
#version 3.7;
#include "transforms.inc"
global_settings {
  assumed_gamma 1.0
  max_trace_level 8
  radiosity { pretrace_start 0.08 pretrace_end 0.01 count 90 nearest_count 6 error_bound 0.9 recursion_limit 1 brightness 1.15 }
}
#declare Seed = seed(41);

#declare SunAt = <-300, 92, 74>;
light_source { SunAt srgb <1, 0.83, 0.62>*2.35 area_light <10,0,0>,<0,10,0>, 5, 5 adaptive 1 jitter circular orient }

sky_sphere {
  pigment { gradient y color_map {
    [0.00 srgb <0.90,0.85,0.79>] [0.08 srgb <0.84,0.83,0.83>] [0.30 srgb <0.66,0.73,0.84>] [1.0 srgb <0.40,0.52,0.72>] } }
  pigment { bozo turbulence 0.75 octaves 6 omega 0.62 lambda 2.3 scale <0.9,0.11,0.6> rotate <0,0,4>
    color_map { [0.35 srgbt <0.93,0.90,0.88,1>] [0.75 srgbt <0.93,0.89,0.86,0.42>] [1 srgbt <0.95,0.90,0.86,0.30>] } }
}
fog { fog_type 1 distance 380 srgbt <0.80,0.80,0.82,0.55> turbulence 0.2 }
fog { fog_type 2 distance 150 fog_offset 0.1 fog_alt 2.6 srgbt <0.82,0.81,0.81,0.35> }

// ---------------------------------------------------------------- surfaces
#declare BrickTint = pigment { granite scale 0.9 turbulence 0.3 color_map {
    [0.0 srgb <0.40,0.20,0.15>] [0.35 srgb <0.53,0.28,0.20>] [0.6 srgb <0.60,0.34,0.24>] [0.8 srgb <0.47,0.27,0.22>] [1 srgb <0.33,0.20,0.18>] } }
#declare Mortar = pigment { granite scale 0.2 color_map { [0 srgb <0.45,0.42,0.39>] [1 srgb <0.60,0.57,0.53>] } }
#declare Soot = texture { pigment { bozo turbulence 0.9 octaves 5 scale <1.6,2.6,1.6> color_map {
    [0.0 srgbt <0.10,0.09,0.09,0.55>] [0.45 srgbt <0.12,0.11,0.10,0.92>] [0.7 srgbt <0.75,0.72,0.68,1>] [1 srgbt <0.78,0.75,0.70,0.80>] } } finish { diffuse 0.8 ambient 0 } }
#declare Damp = texture { pigment { gradient y turbulence 0.12 color_map {
    [0.00 srgbt <0.10,0.10,0.09,0.28>] [0.10 srgbt <0.14,0.13,0.11,0.62>] [0.26 srgbt <0.2,0.2,0.2,1>] [0.88 srgbt <0.2,0.2,0.2,1>] [1 srgbt <0.08,0.07,0.07,0.55>] } scale 6.4 } finish { diffuse 0.8 ambient 0 } }
#declare BrickWall =
  texture { pigment { brick pigment { Mortar } pigment { BrickTint } brick_size <0.26,0.085,0.13> mortar 0.013 turbulence 0.004 }
    normal { brick 0.5 brick_size <0.26,0.085,0.13> mortar 0.013 } finish { diffuse 0.82 ambient 0 roughness 0.2 specular 0.02 } }
  texture { Soot } texture { Damp }
#declare Slate =
  texture { pigment { brick pigment { srgb <0.09,0.095,0.11> } pigment { granite scale <0.9,0.25,0.9> color_map {
        [0 srgb <0.15,0.16,0.20>] [0.5 srgb <0.22,0.23,0.27>] [1 srgb <0.30,0.31,0.34>] } } brick_size <0.42,0.26,2> mortar 0.016 turbulence 0.01 }
    normal { brick 0.7 brick_size <0.42,0.26,2> mortar 0.02 } finish { diffuse 0.8 ambient 0 specular 0.18 roughness 0.05 } }
  texture { pigment { bozo turbulence 0.8 octaves 5 scale <0.9,0.5,0.9> color_map {
        [0 srgbt <0.86,0.89,0.94,1>] [0.45 srgbt <0.86,0.89,0.94,0.96>] [0.9 srgbt <0.87,0.90,0.95,0.84>] [1 srgbt <0.9,0.92,0.96,0.72>] } } finish { diffuse 0.85 ambient 0 } }
#declare Timber = texture { pigment { wood turbulence 0.08 scale <0.05,0.05,1> rotate x*90 color_map { [0 srgb <0.17,0.14,0.12>] [1 srgb <0.26,0.22,0.19>] } } finish { diffuse 0.7 ambient 0 } }
#declare DarkIron = texture { pigment { granite scale 0.3 color_map { [0 srgb <0.13,0.13,0.14>] [0.8 srgb <0.20,0.19,0.19>] [1 srgb <0.30,0.22,0.17>] } } finish { diffuse 0.7 ambient 0 specular 0.25 roughness 0.06 } }
#declare Stone = texture { pigment { granite scale 0.6 color_map { [0 srgb <0.48,0.46,0.43>] [1 srgb <0.66,0.63,0.58>] } } normal { granite 0.15 scale 0.4 } finish { diffuse 0.8 ambient 0 } } texture { Soot scale 0.6 }

// ---------------------------------------------------------------- ground
#declare Dirt = pigment { granite scale 0.35 turbulence 0.2 color_map { [0 srgb <0.23,0.20,0.18>] [0.6 srgb <0.36,0.32,0.28>] [1 srgb <0.50,0.46,0.41>] } }
#declare Frost = pigment { granite scale 0.12 color_map { [0 srgb <0.62,0.65,0.70>] [0.4 srgb <0.78,0.80,0.84>] [1 srgb <0.93,0.94,0.96>] } }
#declare Yard = texture {
  pigment { bozo turbulence 0.95 octaves 6 omega 0.62 lambda 2.2 scale <4.5,1,1.7> pigment_map { [0.0 Frost] [0.50 Frost] [0.66 Dirt] [1.0 Dirt] } }
  normal { average normal_map { [1.6 granite 0.55 scale 0.30] [1 crackle 0.7 scale 0.16] [1 bumps 0.5 scale 1.4] } }
  finish { diffuse 0.86 ambient 0 specular 0.06 roughness 0.02 } }
height_field {
  function 300, 300 { pigment { bozo turbulence 0.6 octaves 5 scale 0.05 color_map { [0 rgb 0] [1 rgb 1] } } }
  smooth translate <-0.5,0,-0.5> scale <160,0.22,160> translate <0,-0.16,55> texture { Yard } }
plane { y, -0.10 texture { Yard } }

// the puddle: still water between the rails, skinned with ice at its rim
#declare Water = texture { pigment { srgb <0.06,0.065,0.07> } finish { diffuse 0.35 ambient 0 reflection { 0.35, 0.98 fresnel on } conserve_energy specular 0.4 roughness 0.002 } normal { bumps 0.012 scale <0.8,1,0.3> } }
#declare Melt = union {
  cylinder { <0,0,0>,<0,0.004,0>,1 scale <2.5,1,1.05> translate <2.0,0.045,6.4> }
  cylinder { <0,0,0>,<0,0.004,0>,1 scale <1.5,1,0.55> translate <3.9,0.045,7.1> }
  cylinder { <0,0,0>,<0,0.004,0>,1 scale <1.3,1,0.40> translate <0.4,0.045,7.4> }
  cylinder { <0,0,0>,<0,0.004,0>,1 scale <0.9,1,0.34> translate <4.6,0.045,5.9> } }
object { Melt texture { Water } interior { ior 1.33 } }

// ---------------------------------------------------------------- rails, wet, from the shed to the camera
#declare Rail = union {
  box { <-0.035,0.0,0>,<0.035,0.10,34> }
  box { <-0.05,0.0,0>,<0.05,0.03,34> } texture { pigment { granite scale 0.5 color_map { [0 srgb <0.16,0.13,0.12>] [1 srgb <0.28,0.22,0.18>] } } finish { diffuse 0.6 ambient 0 specular 0.7 roughness 0.01 reflection { 0.15, 0.75 } } } }
#declare RailTop = box { <-0.032,0.10,0>,<0.032,0.104,34> texture { pigment { srgb <0.42,0.43,0.46> } finish { diffuse 0.2 ambient 0 reflection { 0.55, 0.9 } specular 0.8 roughness 0.004 } normal { bumps 0.02 scale <0.2,1,2> } } }
#declare Track = union { object { Rail translate -0.72*x } object { RailTop translate -0.72*x } object { Rail translate 0.72*x } object { RailTop translate 0.72*x } }
object { Track rotate y*7 translate <1.1,-0.03,2.2> }

// ---------------------------------------------------------------- the shed: side wall to the left, gable to the viewer
#declare W = 11.5; #declare D = 21; #declare Eave = 4.9; #declare Ridge = 8.7;
#declare Door = union { box { <-1.75,-1,-0.6>,<1.75,3.5,1.4> } intersection { cylinder { <0,3.5,-0.6>,<0,3.5,1.4>,1.75 scale <1,0.55,1> translate <0,1.575,0> } box { <-2,3.4,-1>,<2,5,2> } } }
#declare Gable = prism { linear_spline -0.45, 0, 6, <0,0>,<W,0>,<W,Eave>,<W/2,Ridge-0.15>,<0,Eave>,<0,0> rotate -90*x }
#declare Shed = union {
  difference { object { Gable scale <1,1,1> translate <0,0,0.45> } object { Door translate <3.25,0,0> } object { Door translate <8.25,0,0> }
    cylinder { <W/2,6.55,-1>,<W/2,6.55,2>,0.62 } texture { BrickWall } }
  // stone arches and pilasters
  #local i = 0; #while (i<2) #local cx = 3.25+5*i;
    difference { cylinder { <0,0,-0.07>,<0,0,0.3>,2.05 scale <1,0.62,1> translate <cx,3.45,0> } cylinder { <0,0,-1>,<0,0,1>,1.75 scale <1,0.55,1> translate <cx,3.45,0> } box { <cx-3,-1,-1>,<cx+3,3.45,1> } texture { Stone } }
    box { <cx-2.05,0,-0.06>,<cx-1.75,3.46,0.3> texture { Stone } } box { <cx+1.75,0,-0.06>,<cx+2.05,3.46,0.3> texture { Stone } }
  #local i = i+1; #end
  difference { cylinder { <W/2,6.55,-0.06>,<W/2,6.55,0.2>,0.80 } cylinder { <W/2,6.55,-1>,<W/2,6.55,1>,0.62 } texture { Stone } }
  cylinder { <W/2,6.55,0.3>,<W/2,6.55,0.32>,0.62 texture { pigment { srgb <0.10,0.11,0.13> } finish { diffuse 0.4 ambient 0 reflection 0.18 } } }
  // side wall with blind arches and a plinth
  difference { box { <0,0,0>,<0.45,Eave,D> }
    #local j = 0; #while (j<4) box { <-0.2,1.15,2.2+j*4.9>,<0.16,3.7,4.3+j*4.9> } #local j = j+1; #end texture { BrickWall rotate y*90 } }
  #local j = 0; #while (j<4)
    box { <0.17,1.15,2.2+j*4.9>,<0.19,3.7,4.3+j*4.9> texture { pigment { brick pigment { srgb <0.55,0.53,0.49> } pigment { granite scale 0.6 color_map { [0 srgb <0.16,0.19,0.23>] [1 srgb <0.30,0.34,0.38>] } } brick_size <0.5,0.42,0.5> mortar 0.035 rotate y*90 } finish { diffuse 0.6 ambient 0 reflection 0.10 specular 0.3 } } }
    box { <-0.06,1.02,2.05+j*4.9>,<0.3,1.15,4.45+j*4.9> texture { Stone } }
    box { <-0.04,3.7,2.05+j*4.9>,<0.3,3.92,4.45+j*4.9> texture { Stone } }
  #local j = j+1; #end
  box { <-0.10,0,-0.05>,<0.5,0.42,D> texture { Stone } }
  box { <W-0.45,0,0>,<W,Eave,D> texture { BrickWall rotate y*90 } }
  box { <0,0,D-0.4>,<W,Eave,D> texture { BrickWall } }
  // roof planes, bargeboards, ridge
  #local Pitch = degrees(atan2(Ridge-Eave, W/2)); #local Len = sqrt(pow(Ridge-Eave,2)+pow(W/2,2))+0.5;
  box { <0,0,-0.55>,<Len,0.16,D+0.4> texture { Slate rotate x*90 rotate y*90 } rotate z*Pitch translate <-0.42,Eave-0.16,0> }
  box { <-Len,0,-0.55>,<0,0.16,D+0.4> texture { Slate rotate x*90 rotate y*90 } rotate -z*Pitch translate <W+0.42,Eave-0.16,0> }
  box { <0,-0.16,-0.62>,<Len,0.14,-0.50> texture { Timber } rotate z*Pitch translate <-0.42,Eave-0.16,0> }
  box { <-Len,-0.16,-0.62>,<0,0.14,-0.50> texture { Timber } rotate -z*Pitch translate <W+0.42,Eave-0.16,0> }
  cylinder { <W/2,Ridge+0.14,-0.55>,<W/2,Ridge+0.14,D>,0.13 texture { Stone } }
  // gutter and downpipe
  cylinder { <-0.46,Eave-0.28,-0.5>,<-0.46,Eave-0.28,D>,0.09 texture { DarkIron } }
  cylinder { <-0.12,0,0.4>,<-0.12,Eave-0.3,0.4>,0.055 texture { DarkIron } }
  // roof lights
  box { <-0.2,0,4>,<0.9,0.35,7> texture { Timber } rotate z*Pitch translate <1.9,Eave+1.55,0> }
  // inside: floor, back light from a far window, beams
  box { <1,-0.05,1>,<W-1,0.02,D-1> texture { pigment { srgb <0.16,0.15,0.14> } finish { diffuse 0.7 ambient 0 } } }
  // an open leaf of each door, folded back
  box { <0,0,0>,<0.09,3.4,1.7> texture { Timber } rotate y*-64 translate <5.05,0,-0.12> }
  box { <0,0,0>,<0.09,3.4,1.7> texture { Timber } rotate y*38 translate <10.05,0,-0.1> }
}
// ---------------------------------------------------------------- the tram, dull red below, cream above, half out of the shed
#declare Red = texture { pigment { granite scale <3,0.8,3> color_map { [0 srgb <0.36,0.075,0.065>] [0.6 srgb <0.46,0.11,0.09>] [1 srgb <0.41,0.13,0.10>] } } normal { bumps 0.03 scale 0.7 } finish { diffuse 0.75 ambient 0 specular 0.22 roughness 0.03 reflection { 0.01, 0.14 } } }
 texture { pigment { gradient y turbulence 0.25 color_map { [0 srgbt <0.20,0.17,0.14,0.35>] [0.22 srgbt <0.25,0.22,0.2,0.85>] [0.5 srgbt <0.3,0.3,0.3,1>] [1 srgbt <0.3,0.3,0.3,1>] } scale 2.6 } finish { diffuse 0.7 ambient 0 } }
#declare Cream = texture { pigment { granite scale <3,0.8,3> color_map { [0 srgb <0.72,0.63,0.46>] [1 srgb <0.80,0.72,0.55>] } } finish { diffuse 0.78 ambient 0 specular 0.2 roughness 0.03 reflection { 0.01, 0.12 } } }
 texture { pigment { bozo turbulence 0.9 scale <0.8,2,0.8> color_map { [0 srgbt <0.25,0.2,0.15,0.72>] [0.5 srgbt <0.25,0.2,0.15,1>] [1 srgbt <0.25,0.2,0.15,1>] } } finish { diffuse 0.7 ambient 0 } }
#declare Glass = texture { pigment { srgb <0.035,0.04,0.045> } finish { diffuse 0.4 ambient 0 reflection { 0.10, 0.9 fresnel on } conserve_energy specular 0.5 roughness 0.003 } }
#macro RBox(A,B,R) union {
  box { A+<R,0,0>, B-<R,0,0> } box { A+<0,0,R>, B-<0,0,R> }
  cylinder { <A.x+R,A.y,A.z+R>,<A.x+R,B.y,A.z+R>,R } cylinder { <B.x-R,A.y,A.z+R>,<B.x-R,B.y,A.z+R>,R } } #end
#declare Tram = union {
  object { RBox(<-1.08,0.55,0>,<1.08,1.62,8.6>,0.32) texture { Red } }
  object { RBox(<-1.10,1.58,-0.01>,<1.10,1.66,8.6>,0.32) texture { pigment { srgb <0.60,0.48,0.24> } finish { diffuse 0.7 ambient 0 specular 0.4 roughness 0.02 } } }
  difference { object { RBox(<-1.07,1.62,0.01>,<1.07,2.72,8.6>,0.32) texture { Cream } }
    box { <-0.74,1.80,-1>,<-0.06,2.52,0.5> texture { Cream } } box { <0.06,1.80,-1>,<0.74,2.52,0.5> texture { Cream } }
    #local j = 0; #while (j<5) box { <-2,1.80,0.7+j*1.5>,<2,2.5,1.9+j*1.5> texture { Cream } } #local j=j+1; #end }
  object { RBox(<-0.98,1.7,0.10>,<0.98,2.62,8.5>,0.26) texture { Glass } interior { ior 1.5 } }
  object { RBox(<-1.14,2.70,-0.10>,<1.14,2.80,8.7>,0.36) texture { Cream } }
  difference { sphere { 0,1 scale <1.12,0.34,1> } box { <-3,-3,-3>,<3,0,3> } scale <1,1,4.3> translate <0,2.79,4.25> texture { pigment { granite scale 0.7 color_map { [0 srgb <0.36,0.36,0.38>] [1 srgb <0.62,0.63,0.66>] } } finish { diffuse 0.8 ambient 0 } } }
  box { <-0.95,0.30,0.15>,<0.95,0.56,8.4> texture { DarkIron } }
  box { <-0.5,0.16,-0.22>,<0.5,0.34,0.2> texture { DarkIron } }
  cylinder { <0,1.18,-0.07>,<0,1.18,0.02>,0.155 texture { pigment { srgb <0.7,0.67,0.6> } finish { diffuse 0.5 ambient 0 reflection 0.25 specular 0.6 roughness 0.01 } } }
  torus { 0.155,0.025 rotate x*90 translate <0,1.18,-0.07> texture { DarkIron } }
  #local j=0; #while (j<2) cylinder { <-0.8,0.27,1.8+j*4.6>,<0.8,0.27,1.8+j*4.6>,0.34 texture { DarkIron } } #local j=j+1; #end
  cylinder { <0,3.0,4>,<0,4.3,6.4>,0.03 texture { DarkIron } }
}
object { Shed rotate y*-33 translate <-0.9,0,17.2> }
object { Tram translate <3.25,0.06,-3.4> rotate y*-33 translate <-0.9,0,17.2> }
object { Track translate <3.25,-0.01,-14> rotate y*-33 translate <-0.9,0,17.2> }

// ---------------------------------------------------------------- pole, wire, far things in the haze
#declare Pole = union { cylinder { 0,<0,6.6,0>,0.085 } cylinder { 0,<0,1.1,0>,0.13 } sphere { <0,6.65,0>,0.14 } cylinder { <0,5.9,0>,<2.6,6.05,0.9>,0.04 } cylinder { <0,6.5,0>,<1.9,6.0,0.66>,0.02 } texture { DarkIron } }
object { Pole translate <-4.6,0,11.5> }
object { Pole scale <1,1,1> rotate y*180 translate <-15.5,0,34> }
cylinder { <-2.2,6.0,12.3>,<14,5.3,20>,0.012 texture { DarkIron } }
cylinder { <-4.6,6.2,11.5>,<-15.5,6.2,34>,0.012 texture { DarkIron } }
#declare Haze1 = texture { pigment { granite scale 6 color_map { [0 srgb <0.30,0.29,0.30>] [1 srgb <0.42,0.39,0.38>] } } finish { diffuse 0.8 ambient 0 } }
#declare Gasholder = union {
  cylinder { <0,0,0>,<0,11,0>,13 }
  #local a=0; #while (a<18) cylinder { <13.6*cos(a*2*pi/18),0,13.6*sin(a*2*pi/18)>,<13.6*cos(a*2*pi/18),21,13.6*sin(a*2*pi/18)>,0.34 }
    cylinder { <13.6*cos(a*2*pi/18),9.5,13.6*sin(a*2*pi/18)>,<13.6*cos((a+1)*2*pi/18),19.8,13.6*sin((a+1)*2*pi/18)>,0.09 }
    cylinder { <13.6*cos(a*2*pi/18),19.8,13.6*sin(a*2*pi/18)>,<13.6*cos((a+1)*2*pi/18),9.5,13.6*sin((a+1)*2*pi/18)>,0.09 } #local a=a+1; #end
  torus { 13.6,0.3 translate <0,20.6,0> } torus { 13.6,0.22 translate <0,14,0> } torus { 13.2,0.25 translate <0,11,0> } texture { Haze1 } }
object { Gasholder translate <-63,0,140> }
union { box { <-75,0,96>,<-60,6,110> } box { <-58,0,90>,<-49,4.6,100> } cylinder { <-66,0,88>,<-66,19,88>,1.2 } prism { linear_spline 0,14,4,<-76,6>,<-67.5,9.5>,<-59,6>,<-76,6> rotate -90*x translate <0,0,96> } texture { Haze1 } }
union { box { <28,0,80>,<52,7,95> } box { <54,0,86>,<90,5,100> } texture { Haze1 } }
union { #local i=0; #while (i<240) sphere { 0,1 scale <1.5+2.6*rand(Seed),1.3+2.2*rand(Seed),1.5> translate <-95+230*rand(Seed),1.2+3.4*rand(Seed)*rand(Seed),128+18*rand(Seed)> } #local i=i+1; #end
  texture { pigment { bozo scale 0.7 turbulence 0.8 color_map { [0 srgbt <0.28,0.27,0.27,0.1>] [0.6 srgbt <0.34,0.32,0.32,0.45>] [1 srgbt <0.4,0.4,0.4,0.9>] } } finish { diffuse 0.7 ambient 0 } } }
// a stack of sleepers and a drum by the side wall, so that the lit wall throws and takes shadows
union { #local i=0; #while (i<4) #local k=0; #while (k<3) box { <0,0,0>,<2.5,0.15,0.24> rotate y*(rand(Seed)*4-2) translate <0,0.16*i,0.28*k> } #local k=k+1; #end #local i=i+1; #end
  texture { Timber } rotate y*-50 translate <-6.9,0,19.5> }
cylinder { 0,<0,0.92,0>,0.31 texture { pigment { granite scale 0.5 color_map { [0 srgb <0.24,0.27,0.29>] [0.7 srgb <0.30,0.33,0.34>] [1 srgb <0.38,0.24,0.16>] } } finish { diffuse 0.7 ambient 0 specular 0.2 } } translate <-3.0,0,17.6> }
// stones and frozen tufts in the foreground
#local i=0; #while (i<420) #local px=-9+20*rand(Seed); #local pz=3.4+13*rand(Seed)*rand(Seed); #local r=0.012+0.04*pow(rand(Seed),3);
  sphere { 0,r scale <1,0.6,1> translate <px,0.03,pz> texture { pigment { srgb <0.32,0.30,0.28>*(0.7+0.9*rand(Seed)) } normal { granite 0.5 scale 0.05 } finish { diffuse 0.8 ambient 0 } } } #local i=i+1; #end
#local i=0; #while (i<260) #local px=-8+6.2*rand(Seed); #local pz=3.6+12*rand(Seed); #local b=0; #while (b<7)
  cone { <px+0.03*rand(Seed),0,pz+0.03*rand(Seed)>,0.006,<px+0.16*(rand(Seed)-0.5),0.07+0.12*rand(Seed),pz+0.16*(rand(Seed)-0.5)>,0.001 texture { pigment { srgb <0.70,0.68,0.60>*(0.75+0.4*rand(Seed)) } finish { diffuse 0.9 ambient 0 } } } #local b=b+1; #end #local i=i+1; #end

camera { perspective right x*4/3 up y location <-1.9,1.72,-0.6> look_at <0.1,2.75,16> angle 62
  #ifdef (Blur) aperture 0.03 focal_point <1.5,1.6,15> blur_samples 9 variance 1/1000 confidence 0.9 #end }
