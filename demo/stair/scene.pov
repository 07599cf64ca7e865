// The place "Bench by the north window" is to hang: a plastered stair wall, seen a little from the side. Metres.
// A folding rule one metre long leans on the wall, so that the photo can be measured.
#version 3.7;
global_settings { assumed_gamma 1.0 max_trace_level 5
  radiosity { pretrace_start 0.08 pretrace_end 0.02 count 60 nearest_count 5 error_bound 0.9 recursion_limit 2 brightness 1.2 } }
#declare Seed = seed(5);
light_source { <-2.6, 3.4, -2.6> srgb <1, 0.93, 0.82>*1.7 area_light <1.2,0,0>,<0,0,1.2>, 5, 5 adaptive 1 jitter }
#declare Wall = texture { pigment { granite scale 1.4 turbulence 0.3 color_map { [0 srgb <0.66,0.64,0.58>] [0.7 srgb <0.71,0.69,0.63>] [1 srgb <0.62,0.60,0.55>] } } normal { granite 0.03 scale 0.4 } finish { diffuse 0.85 ambient 0 } }
 texture { pigment { bozo turbulence 0.8 octaves 5 scale <0.9,1.6,0.9> color_map { [0 srgbt <0.30,0.26,0.20,0.80>] [0.4 srgbt <0.3,0.3,0.3,0.98>] [1 srgbt <0.8,0.8,0.75,1>] } } finish { diffuse 0.85 ambient 0 } }
box { <-4,-0.2,0>,<4,4,0.2> texture { Wall } }
plane { y, 0 texture { pigment { granite scale 0.8 color_map { [0 srgb <0.30,0.28,0.26>] [1 srgb <0.40,0.38,0.35>] } } finish { diffuse 0.8 ambient 0 specular 0.05 } } }
#declare Tread = texture { pigment { wood turbulence 0.08 scale <0.05,0.05,0.6> rotate y*90 color_map { [0 srgb <0.30,0.20,0.13>] [1 srgb <0.42,0.30,0.20>] } } finish { diffuse 0.75 ambient 0 specular 0.15 roughness 0.05 } }
#declare Painted = texture { pigment { granite color_map { [0 srgb <0.33,0.37,0.36>] [1 srgb <0.38,0.42,0.41>] } } finish { diffuse 0.8 ambient 0 specular 0.05 } }
union { #local i=0; #while (i<9) box { <0.35+0.27*i,0,-0.95>,<4,0.18*(i+1)-0.035,-0.0> texture { Painted } } box { <0.33+0.27*i,0.18*(i+1)-0.035,-0.98>,<0.66+0.27*i,0.18*(i+1),0> texture { Tread } } #local i=i+1; #end }
// string board and hand-rail along the wall
union { box { <-0.05,0.10,-0.03>,<4.4,0.30,0> rotate z*degrees(atan2(0.18,0.27)) translate <0.30,0.06,0> texture { Painted } }
  cylinder { <-0.2,0.95,-0.07>,<4.2,0.95+4.4*0.18/0.27,-0.07>,0.024 texture { Tread } }
  #local i=0; #while (i<4) cylinder { <0.1+1.0*i,0.93+(0.3+1.0*i)*0.18/0.27,-0.07>,<0.1+1.0*i,0.93+(0.3+1.0*i)*0.18/0.27,0>,0.012 texture { pigment { srgb 0.12 } } } #local i=i+1; #end }
box { <-4,0,-0.02>,<0.30,0.13,0> texture { Painted } }
// the rule
union { #local i=0; #while (i<10) box { <-0.011,0.1*i,-0.004>,<0.011,0.1*i+0.1,0> texture { pigment { srgb <0.80,0.68,0.34>*(1-0.16*mod(i,2)) } finish { diffuse 0.8 ambient 0 } } } box { <-0.011,0.1*i-0.0015,-0.0045>,<0.011,0.1*i+0.0015,0> texture { pigment { srgb 0.08 } } } #local i=i+1; #end translate <-1.30,0.02,-0.006> }
// a coat hook rail and a switch, worn plaster edge
union { box { <-2.9,1.62,-0.025>,<-1.75,1.71,0> texture { Tread } } #local i=0; #while (i<4) cylinder { <-2.75+0.28*i,1.66,-0.025>,<-2.75+0.28*i,1.64,-0.10>,0.012 texture { pigment { srgb 0.10 } finish { specular 0.3 } } } #local i=i+1; #end
  box { <-1.62,1.14,-0.012>,<-1.54,1.24,0> texture { pigment { srgb <0.82,0.80,0.74> } finish { diffuse 0.8 ambient 0 } } } }
camera { perspective right x*4/3 up y location <-0.75,1.55,-3.6> look_at <-0.25,1.38,0> angle 60
  #ifdef (Blur) aperture 0.01 focal_point <-0.2,1.4,0> blur_samples 5 variance 1/400 confidence 0.8 #end }
