// "The lane to the weir": one place of the demo studio's neighbourhood through two years. Metres; x right, y up, z away.
// Declared from outside: Season 0 spring, 1 summer, 2 autumn, 3 winter; Hour 0 early, 1 noon, 2 late, 3 dusk; Weather 0 clear, 1 overcast,
// 2 mist; View 0 the lane, 1 the weir.
#version 3.7;
#include "functions.inc"
global_settings { assumed_gamma 1.0 max_trace_level 6
  radiosity { pretrace_start 0.08 pretrace_end 0.03 count 50 nearest_count 5 error_bound 1.1 recursion_limit 1 brightness 1.0 } }
#declare Seed = seed(31+Season+10*View);
#macro OneOf4(A,B,C,D,I) (A*(I=0)+B*(I=1)+C*(I=2)+D*(I=3)) #end
#declare Grass = OneOf4(<0.21,0.30,0.09>,<0.26,0.29,0.10>,<0.33,0.27,0.12>,<0.62,0.64,0.68>,Season);
#declare GrassDark = OneOf4(<0.11,0.19,0.05>,<0.14,0.18,0.06>,<0.20,0.15,0.07>,<0.44,0.47,0.54>,Season);
#declare Leaf = OneOf4(<0.28,0.38,0.12>,<0.10,0.19,0.06>,<0.50,0.24,0.06>,<0.19,0.16,0.14>,Season);
#declare LeafDark = OneOf4(<0.13,0.22,0.06>,<0.04,0.09,0.03>,<0.28,0.10,0.04>,<0.09,0.08,0.08>,Season);
#declare Path = OneOf4(<0.40,0.31,0.22>,<0.50,0.40,0.28>,<0.34,0.25,0.18>,<0.55,0.54,0.55>,Season);
#declare SunAt = OneOf4(<-9,2.6,4>,<-3,9,-5>,<8,2.2,5>,<9,0.5,8>,Hour);
#declare SunColour = OneOf4(<1.0,0.86,0.66>*(Season=3?1.2:1.9),<1.0,0.97,0.90>*(Season=3?1.05:1.7),<1.0,0.70,0.40>*2.1,<1.0,0.46,0.30>*0.45,Hour);
#declare Zenith = OneOf4(<0.30,0.44,0.66>,<0.20,0.38,0.68>,<0.28,0.38,0.58>,<0.10,0.13,0.26>,Hour);
#declare Rim = OneOf4(<0.86,0.80,0.70>,<0.66,0.76,0.86>,<0.95,0.72,0.45>,<0.66,0.40,0.30>,Hour);
#if (Weather>0) #declare Grey = <0.62,0.64,0.67>*OneOf4(0.9,1,0.85,0.35,Hour);
  #declare Zenith = Zenith*0.12+Grey*0.80; #declare Rim = Rim*0.2+Grey*0.95; #declare SunColour = SunColour*0.10+<0.3,0.31,0.33>*OneOf4(0.8,1,0.7,0.25,Hour); #end
light_source { SunAt*100 srgb SunColour #if (Weather>0) area_light x*900,z*900,5,5 adaptive 1 jitter #end }
sky_sphere { pigment { gradient y color_map { [0 srgb Rim] [0.16 srgb Rim*0.6+Zenith*0.4] [0.55 srgb Zenith] } }
  pigment { bozo turbulence 0.7 octaves 5 scale <0.5,0.14,0.5> color_map { [0 srgbt <1,1,1,1>] [0.52 srgbt <1,1,1,1>] [0.8 srgbt (Rim*0.5+<0.5,0.5,0.5>)*OneOf4(1,1,1,0.4,Hour)+0.0*<0,0,0>] [1 srgb Rim*0.8] } } }
fog { #if (Weather<2) fog_type 2 fog_offset 0.6 fog_alt 2.6 up y #end distance OneOf4(150,260,190,150,Hour)*(Weather=2?0.16:(Weather=1?0.7:1)) srgb Rim*0.75+Zenith*0.25 }
#declare Ground = texture { pigment { granite scale 1.6 turbulence 0.4 color_map { [0 srgb GrassDark] [0.5 srgb Grass] [1 srgb Grass*1.15] } } normal { bumps 0.5 scale 0.08 } finish { diffuse 0.8 ambient 0 } }
 texture { pigment { bozo scale <1.4,1,3> turbulence 0.6 color_map { [0 srgbt <0,0,0,1>] [0.6 srgbt <0,0,0,1>] [1 srgbt GrassDark*0.7+0.45*<0,0,0>+<0,0,0>] } } finish { diffuse 0.8 ambient 0 } }
#declare Fields = texture { pigment { granite scale 1.6 turbulence 0.4 color_map { [0 srgb GrassDark] [0.5 srgb Grass] [1 srgb Grass*1.2] } } normal { bumps 0.7 scale <0.10,0.1,0.16> } finish { diffuse 0.8 ambient 0 } }
#declare Worn = texture { pigment { granite scale 0.7 color_map { [0 srgb Path*0.8] [1 srgb Path*1.1] } } normal { bumps 0.5 scale 0.12 } finish { diffuse 0.8 ambient 0 } }
// The lane bends away over the fields: a strip of worn earth whose edges waver.
#declare Lane = function(x,z) { (0.9+0.35*f_noise3d(x*1.2,0,z*0.9)-abs(x-1.5*sin(z*0.10)+0.6))*2 }
plane { y,-0.4 texture { function { min(1,max(0,Lane(x,z)*(1-View))) } texture_map { [0 Fields] [0.35 Fields] [0.5 Worn] [1 Worn] } } }
#declare K = 0; #while (K<3)
  height_field { function 90,40 { 0.15+0.75*f_noise3d(x*4+K*7,y*2,K)+0.12*f_noise3d(x*30,y*16,5) } smooth translate <-0.5,-0.1,0> scale <160,7+5*K,30> translate <0,0,52+24*K>
    texture { pigment { granite scale 9 color_map { [0 srgb GrassDark*0.9] [1 srgb Leaf*0.5+Grass*0.5] } } normal { bumps 0.8 scale 0.6 } finish { diffuse 0.8 ambient 0 } } }
#declare K=K+1; #end
#macro Tree(H,W)
 union { cone { 0,0.10*W,<0.1,H*0.75,0>,0.03*W texture { pigment { granite scale 0.4 color_map { [0 srgb <0.12,0.09,0.07>] [1 srgb <0.28,0.22,0.17>] } } finish { diffuse 0.8 ambient 0 } } }
 #if (Season=3)
  #local I=0; #while (I<70) #local B=H*(0.25+0.6*rand(Seed)); #local A=360*rand(Seed); #local L=W*(0.5+0.8*rand(Seed));
   cone { <0,B,0>,0.030*W,<L*cos(A),B+L*(0.5+0.7*rand(Seed)),L*sin(A)>,0.006 texture { pigment { srgb LeafDark*1.3 } finish { diffuse 0.8 ambient 0 } } } #local I=I+1; #end
 #else
  #local I=0; #while (I<650) #local V=vnormalize(<rand(Seed)-0.5,rand(Seed)-0.5,rand(Seed)-0.5>)*pow(rand(Seed),0.45);
   sphere { 0,W*(0.05+0.10*rand(Seed)) scale <1,0.75,1> translate <V.x*W,H*0.66+V.y*H*0.36,V.z*W>
    texture { pigment { granite scale 0.16 color_map { [0 srgb LeafDark] [0.45 srgb LeafDark*0.4+Leaf*0.6] [1 srgb Leaf*(0.85+0.4*rand(Seed))] } } normal { bumps 1.2 scale 0.05 } finish { diffuse 0.85 ambient 0 } } } #local I=I+1; #end
 #end } #end
#if (View=0)
 object { Tree(5.2,1.7) translate <-3.3,-0.4,8> } object { Tree(4.4,1.5) translate <3.2,-0.4,10> } object { Tree(4.6,1.6) translate <-3.9,-0.2,14> } object { Tree(4.2,1.5) translate <3.9,-0.2,18> } object { Tree(3.6,1.5) translate <-4.8,0,24> }
 // a shed of boards with a red door, roof of tin
 union { box { <0,0,0>,<2.6,1.7,2.2> texture { pigment { gradient x scale 0.2 color_map { [0 srgb <0.30,0.26,0.22>] [0.08 srgb <0.12,0.10,0.09>] [0.12 srgb <0.36,0.32,0.28>] [1 srgb <0.28,0.25,0.22>] } } finish { diffuse 0.8 ambient 0 } } }
  prism { linear_sweep -0.15,2.35,4, <-0.25,1.65>,<1.3,2.75>,<2.85,1.65>,<-0.25,1.65> rotate x*-90 scale <1,1,-1> texture { pigment { #if (Season=3) srgb <0.8,0.82,0.86> #else granite color_map { [0 srgb <0.36,0.27,0.22>] [1 srgb <0.46,0.42,0.40>] } #end } finish { diffuse 0.75 ambient 0 specular 0.1 } } }
  box { <0.9,0,-0.02>,<1.7,1.4,0.05> texture { pigment { srgb <0.48,0.10,0.07> } finish { diffuse 0.8 ambient 0 } } } rotate y*18 translate <4.6,-0.4,11.5> }
#else
 // the weir: still water above a low wall, poplars on the far bank
 box { <-40,-0.9,-2>,<40,-0.34,14> texture { pigment { srgb <0.08,0.10,0.09> } normal { bumps 0.09 scale <0.9,0.3,0.25> } finish { diffuse 0.35 ambient 0 specular 0.5 roughness 0.01 reflection { 0.15,0.75 fresnel off } } } }
 box { <-40,-0.4,6.2>,<40,-0.25,6.7> texture { pigment { granite scale 0.5 color_map { [0 srgb <0.30,0.29,0.27>] [1 srgb <0.50,0.48,0.45>] } } finish { diffuse 0.8 ambient 0 } } }
 box { <-40,-0.345,6.0>,<40,-0.30,6.2> texture { pigment { granite scale 0.2 color_map { [0 srgb <0.75,0.78,0.80>] [1 srgb <0.55,0.60,0.63>] } } normal { bumps 0.8 scale 0.05 } finish { diffuse 0.9 ambient 0 } } }
 #declare I=0; #while (I<7) object { Tree(5.8+1.6*rand(Seed),0.75) translate <-6.5+I*1.6+0.5*rand(Seed),-0.2,15+1.2*rand(Seed)> } #declare I=I+1; #end
 object { Tree(4.2,2.1) translate <6.2,-0.3,13.5> }
 // a moored punt
 union { difference { box { <-1.3,0,-0.35>,<1.3,0.30,0.35> } box { <-1.2,0.07,-0.28>,<1.2,1,0.28> } } texture { pigment { srgb <0.10,0.24,0.26> } finish { diffuse 0.8 ambient 0 } } rotate y*-22 translate <1.6,-0.42,4.2> }
#end
camera { perspective right x*4/3 up y location <0,1.05,-0.5> look_at <0,0.95,10> angle 56 }
